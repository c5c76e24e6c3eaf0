import { addDays } from '@woodruff/core';
import { execute, select, type Database } from '../../database/connection';
import type { Agency, AgencyAnswer } from '../../filings/agency';
import { NOTHING, type Fault, type Read } from './read';
import * as AU from './AU';
import * as GB from './GB';
import * as US from './US';

/** Whose agencies are in; each country's readers are in a folder of its own. */
const COUNTRIES: Record<string, Country | undefined> = { US, GB, AU };

interface Country {
  read(name: string, content: string): Read;
  /** How the agencies know an employer. */
  numberFault(taxpayer: string): Fault | null;
}

interface Settings {
  answersAfter: number;
  doubles: boolean;
  loses: boolean;
}

/**
 * The agencies as one small house with books of its own. It reads what it is handed with its own readers, knows who filed
 * what, and answers after a while: received, then accepted or rejected with its reasons. It may say a thing twice, and an
 * answer may get lost until it is asked again. It forgets nothing when it is stopped.
 */
export class StandInAgency implements Agency {
  constructor(
    private readonly database: Database,
    private readonly country: string,
  ) {}

  async submit({ key, agency, name, content, on }: Parameters<Agency['submit']>[0]): Promise<void> {
    const read = this.read(name, content);
    await this.database.transaction(async (transaction) => {
      await execute(
        this.database,
        'select pg_advisory_xact_lock(hashtextextended(:key, 3))',
        { key: `${read.taxpayer} ${read.form} ${read.to}` },
        transaction,
      );
      const [submission] = (await execute(
        this.database,
        `insert into agency.submissions (file_key, agency, name, content, received_on, form, period, taxpayer, corrects) values (:key, :agency, :name, :content, :on, :form, :period, :taxpayer, :corrects) on conflict (file_key) do nothing returning id`,
        {
          key,
          agency,
          name,
          content: Buffer.from(content),
          on,
          form: read.form,
          period: read.to,
          taxpayer: read.taxpayer,
          corrects: read.corrects,
        },
        transaction,
      )) as { id: number }[];
      // The same file again is the one that it has.
      if (!submission) return;
      const faults = [...read.faults, ...(await this.against(read, on, submission.id))];
      const settings = await this.settings();
      const number = `${on.replaceAll('-', '').slice(2)}${String(submission.id).padStart(8, '0')}`;
      for (const [status, after] of [
        ['received', settings.answersAfter > 1 ? 1 : 0],
        [faults.length ? 'rejected' : 'accepted', settings.answersAfter],
      ] as const)
        await execute(
          this.database,
          `insert into agency.answers (submission_id, on_day, status, number, faults) values (:id, :on, :status, :number, cast(:faults as jsonb)) returning id`,
          {
            id: submission.id,
            on: addDays(on, after),
            status,
            number,
            faults: JSON.stringify(status === 'rejected' ? faults : []),
          },
          transaction,
        );
    });
  }

  async answers(files: readonly string[], until: string): Promise<AgencyAnswer[]> {
    const { doubles, loses } = await this.settings();
    const rows = await select<AgencyAnswer & { age: number }>(
      this.database,
      `select 'A' || a.id as answer, s.file_key as file, a.on_day as "on", a.status, a.number, a.faults, cast(:until as date) - a.on_day as age
       from agency.answers a join agency.submissions s on s.id = a.submission_id where s.file_key in (:files) and a.on_day <= :until order by a.id`,
      { files: [...files], until },
    );
    // What gets lost on its day is there when it is asked for again on a later one.
    const told = rows.filter(({ age, status }) => !(loses && age === 0 && status !== 'received')).map(({ age: _age, ...answer }) => answer);
    return doubles ? [...told, ...told].reverse() : told;
  }

  private read(name: string, content: string): Read {
    return (
      COUNTRIES[this.country]?.read(name, content) ?? { ...NOTHING, faults: [{ code: 'FORMAT', text: 'no agency here reads such a file' }] }
    );
  }

  /** What the agency finds against its books: who it is, whether it has the period already, whether the period is over. */
  private async against(read: Read, on: string, id: number): Promise<Fault[]> {
    const faults: Fault[] = [];
    const unknown = COUNTRIES[this.country]?.numberFault(read.taxpayer);
    if (unknown) faults.push(unknown);
    if (!read.signed) faults.push({ code: 'SIGNATURE', text: 'it is not signed' });
    if (read.to && read.to >= on && !read.ahead) faults.push({ code: 'PERIOD', text: `the period runs until ${read.to}` });
    const [known] = await select<{ name: string }>(this.database, 'select name from agency.taxpayers where number = :number', {
      number: read.taxpayer,
    });
    if (known && plain(known.name) !== plain(read.name))
      faults.push({ code: 'NAME', text: `the number ${read.taxpayer} belongs to another name than ${read.name}` });
    const [before] = await select<{ accepted: boolean }>(
      this.database,
      `select exists (select 1 from agency.submissions s join agency.answers a on a.submission_id = s.id and a.status = 'accepted' where s.taxpayer = :taxpayer and s.form = :form and s.period = :period and s.id <> :id) as accepted`,
      { taxpayer: read.taxpayer, form: read.form, period: read.to, id },
    );
    if (before?.accepted && !read.corrects)
      faults.push({ code: 'DUPLICATE', text: 'a return of this period was accepted already; correct that one' });
    if (!before?.accepted && read.corrects)
      faults.push({ code: 'NOTHING', text: 'there is no accepted return of this period that it could correct' });
    return faults;
  }

  private async settings(): Promise<Settings> {
    const [row] = await select<Settings>(this.database, 'select answers_after as "answersAfter", doubles, loses from agency.settings');
    return row ?? { answersAfter: 0, doubles: false, loses: false };
  }
}

const plain = (name: string): string => name.toUpperCase().replace(/[^A-Z0-9]/g, '');
