import { execute, select, type Database } from '../../database/connection';
import { packFor, type Scope } from '../../scope';
import * as AU from './AU';
import * as GB from './GB';

/** A notice as the stand-in keeps it, in the terms of its country. */
export interface StandInNotice {
  issued: string;
}
/** Whose agencies give notices, as a file of their own. */
const WRITERS: Record<string, ((employer: string, notices: readonly never[]) => string) | undefined> = {
  GB: GB.writeNotices,
  AU: AU.writeNotices,
};

/** The agency puts a notice into the employer's box. */
export async function issueNotice(database: Database, taxpayer: string, notice: StandInNotice): Promise<void> {
  await execute(database, 'insert into agency.notices (taxpayer, issued_on, content) values (:taxpayer, :issued, :content) returning id', {
    taxpayer,
    issued: notice.issued,
    content: JSON.stringify(notice),
  });
}

/** What the agency has in the employer's box until today, as its file. */
export async function noticesOf(scope: Scope): Promise<string> {
  const taxpayer = packFor(scope).employerNumber(scope.employer.facts.country);
  const rows = await select<{ content: string }>(
    scope.database,
    'select content from agency.notices where taxpayer = :taxpayer and issued_on <= :today order by issued_on, id',
    { taxpayer, today: scope.employer.today },
  );
  const write = WRITERS[scope.employer.country];
  return write
    ? write(
        taxpayer,
        rows.map(({ content }) => JSON.parse(content) as never),
      )
    : '';
}
