import { createHash } from 'node:crypto';
import { addDays, isBusinessDay } from '@woodruff/core';
import { execute, select, type Database } from '../../database/connection';
import type { Bank, BankAccount, BankFile } from '../../payments/bank';
import type { FileFault, Read } from './order';
import { readAbaFile } from './reads-aba';
import { readAchFile } from './reads-ach';
import { readBacsFile } from './reads-bacs';
import { readPain } from './reads-pain';
import { statementOf, type Movement } from './statement';

/** What comes back from accounts that are not as the payment says, by the scheme of the file: reason, and days after booking. */
const ANSWERS: Record<string, { ach: string; bacs: string; aba?: string; xml: string; after: number }> = {
  closed: { ach: 'R02', bacs: 'B', aba: '3', xml: 'AC04', after: 1 },
  unknown: { ach: 'R03', bacs: '5', aba: '5', xml: 'AC01', after: 2 },
  'other-name': { ach: 'R03', bacs: '0', aba: '6', xml: 'BE01', after: 2 },
  moved: { ach: 'C03', bacs: '3', xml: 'CNOR', after: 1 },
};

/**
 * A small bank with books of its own, reached through its files alone. It reads what it is given with its own readers,
 * refuses what is damaged, books on the effective day (a day later where the file came too late), sends back what finds no
 * account, and forgets nothing when it is stopped.
 */
export class StandInBank implements Bank {
  constructor(
    private readonly database: Database,
    private readonly isHoliday: (date: string) => boolean,
  ) {}

  async submit({ name, content, on, at }: BankFile): ReturnType<Bank['submit']> {
    const hash = createHash('sha256').update(content).digest('hex');
    const read = this.read(content);
    const faults = 'faults' in read ? read.faults : null;
    return this.database.transaction(async (transaction) => {
      await execute(this.database, 'select pg_advisory_xact_lock(hashtextextended(:hash, 1))', { hash }, transaction);
      const [known] = await select<{ faults: FileFault[] | null }>(
        this.database,
        'select faults from bank.files where hash = :hash',
        { hash },
        transaction,
      );
      if (known) return known.faults ? { taken: false, faults: known.faults } : { taken: true };
      const [file] = (await execute(
        this.database,
        `insert into bank.files (hash, name, content, received_on, payer_bank, payer_account, faults, late)
         values (:hash, :name, :content, :on, :bank, :account, cast(:faults as jsonb), :at > (select cut_off from bank.settings)) returning id`,
        {
          hash,
          name,
          content: Buffer.from(content),
          on,
          at,
          bank: 'order' in read ? read.order.payerBank : null,
          account: 'order' in read ? read.order.payerAccount : null,
          faults: faults && JSON.stringify(faults),
        },
        transaction,
      )) as { id: number }[];
      if (!('order' in read) || !file) return { taken: false, faults: faults ?? [] };
      const { payerBank, payerAccount, payments } = read.order;
      const refuse = async (what: string): ReturnType<Bank['submit']> => {
        const why: FileFault[] = [{ line: 1, column: 1, what }];
        await execute(
          this.database,
          'update bank.files set faults = cast(:why as jsonb) where id = :file returning id',
          { file: file.id, why: JSON.stringify(why) },
          transaction,
        );
        return { taken: false, faults: why };
      };
      // An unbalanced file does not say from which account; the bank knows its customer's only one.
      const account = payerAccount ?? (await this.onlyAccountOf(payerBank));
      if (!account) return refuse('the file does not debit an account, and the bank knows of none for it: send it balanced');
      const written = await execute(
        this.database,
        `insert into bank.payments (file_id, reference, payer_bank, payer_account, name, bank, account, amount, effective)
         select :file, p.reference, :payerBank, :account, p.name, p.bank, p.account, p.amount, p.effective
         from jsonb_to_recordset(cast(:payments as jsonb)) as p(reference text, name text, bank text, account text, amount bigint, effective date)
         on conflict do nothing returning id`,
        { file: file.id, payerBank, account, payments: JSON.stringify(payments) },
        transaction,
      );
      if (written.length === payments.length) return { taken: true };
      // Another file has paid some of it: nothing of this one is taken.
      await execute(this.database, 'delete from bank.payments where file_id = :file returning id', { file: file.id }, transaction);
      return refuse(`${payments.length - written.length} payments were in an earlier file`);
    });
  }

  async statements(account: BankAccount, from: string, to: string): Promise<string[]> {
    await this.work(account, to);
    const days = await select<{ day: string; movements: Movement[] }>(
      this.database,
      `select day, json_agg(json_build_object('entry', entry, 'reference', reference, 'amount', amount, 'name', name, 'code', code, 'words', words) order by entry) as movements
       from (select booked_on as day, 'P' || id as entry, reference, -amount as amount, name, '' as code, '' as words
             from bank.payments where payer_bank = :bank and payer_account = :account and booked_on between :from and :to
             union all
             select returned_on, 'R' || id, reference, case when told is null then amount else 0 end, name, code, coalesce(told->>'bank', '') || ' ' || coalesce(told->>'account', '')
             from bank.payments where payer_bank = :bank and payer_account = :account and returned_on between :from and :to) m group by day order by day`,
      { ...account, from, to },
    );
    const [before] = await select<{ balance: number }>(
      this.database,
      `select (coalesce((select opening from bank.accounts where bank = :bank and account = :account), 0)
         - coalesce((select sum(amount) from bank.payments where payer_bank = :bank and payer_account = :account and booked_on < :from), 0)
         + coalesce((select sum(amount) from bank.payments where payer_bank = :bank and payer_account = :account and returned_on < :from and told is null), 0))::bigint as balance`,
      { ...account, from },
    );
    let balance = before?.balance ?? 0;
    const statements: string[] = [];
    for (const { day, movements } of days) {
      const trimmed = movements.map((movement) => ({ ...movement, words: movement.words.trim() }));
      statements.push(statementOf(account, day, balance, trimmed));
      balance += movements.reduce((sum, { amount }) => sum + amount, 0);
    }
    return statements;
  }

  /** Books what is due until a day, and sends back what found no account. */
  private async work({ bank, account }: BankAccount, to: string): Promise<void> {
    await this.database.transaction(async (transaction) => {
      await execute(this.database, 'select pg_advisory_xact_lock(hashtextextended(:key, 2))', { key: `${bank} ${account}` }, transaction);
      const waiting = await select<{
        id: number;
        received: string;
        effective: string;
        state: string | null;
        told: object | null;
        scheme: string;
        late: boolean;
      }>(
        this.database,
        `select p.id, f.received_on as received, p.effective, a.state, substring(f.name from '[^.]*$') as scheme, f.late,
                case when a.state = 'moved' then json_build_object('bank', coalesce(a.new_bank, p.bank), 'account', coalesce(a.new_account, p.account)) end as told
         from bank.payments p join bank.files f on f.id = p.file_id left join bank.accounts a on a.bank = p.bank and a.account = p.account
         where p.payer_bank = :bank and p.payer_account = :account and p.booked_on is null and p.effective <= :to order by p.id for update of p`,
        { bank, account, to },
        transaction,
      );
      const booked = waiting.flatMap(({ id, received, effective, state, told, scheme, late }) => {
        // What comes after the cut-off is as if it had come on the next business day.
        const counts = late ? this.bankDay(addDays(received, 1)) : received;
        const on = counts < effective ? this.bankDay(effective) : this.bankDay(addDays(counts, 1));
        if (on > to) return [];
        const answer = state ? ANSWERS[state] : undefined;
        return [
          {
            id,
            on,
            code: answer ? (answer[scheme as 'ach' | 'bacs' | 'aba'] ?? answer.xml) : '',
            back: answer ? this.after(on, answer.after) : null,
            told,
          },
        ];
      });
      if (booked.length)
        await execute(
          this.database,
          `update bank.payments p set booked_on = b."on", code = b.code, returned_on = b.back, told = b.told
           from jsonb_to_recordset(cast(:booked as jsonb)) as b(id bigint, "on" date, code text, back date, told jsonb) where p.id = b.id`,
          { booked: JSON.stringify(booked) },
          transaction,
        );
    });
  }

  private read(content: string): Read {
    return content.startsWith('101')
      ? readAchFile(content)
      : content.startsWith('VOL1')
        ? readBacsFile(content, (date) => this.bankDay(addDays(date, 1)))
        : /^0 {17}01/.test(content)
          ? readAbaFile(content)
          : content.trimStart().startsWith('<')
            ? readPain(content)
            : {
                faults: [{ line: 1, column: 1, what: 'neither a clearing-house file nor a credit transfer in XML' }],
              };
  }

  private async onlyAccountOf(bank: string): Promise<string | undefined> {
    const known = await select<{ account: string }>(
      this.database,
      `select account from bank.accounts where bank = :bank and opening <> 0 order by account limit 2`,
      { bank },
    );
    return known.length === 1 ? known[0]?.account : undefined;
  }

  private bankDay(date: string): string {
    let day = date;
    while (!isBusinessDay(day, this.isHoliday)) day = addDays(day, 1);
    return day;
  }

  private after(date: string, days: number): string {
    let day = date;
    for (let left = days; left > 0; left--) day = this.bankDay(addDays(day, 1));
    return day;
  }
}
