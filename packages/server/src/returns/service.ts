import type { Behind, ParsedQueryOf, Return, YearEnd } from '@woodruff/contract';
import { dateOf, decimalOf, lastOfMonth, packOf, written, writtenDay, type Filings } from '@woodruff/core';
import { execute, select } from '../database/connection';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../documents/sheet';
import { notFound, Refusal } from '../errors';
import { theVault } from '../vault/vault';
import { balancesOutOfStep } from '../pay-runs/posting';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../users/scope';
import { csvOf } from '../files/write';

type Quarter = ParsedQueryOf<'quarterlyReturn'>;

function filingsOf(scope: Scope): Filings {
  const { filings, name } = packOf(scope.employer.country);
  if (!filings) throw new Refusal(422, 'no-forms', `The forms of ${name} are not in the product yet.`);
  return filings;
}

const employerNumber = (scope: Scope): string => filingsOf(scope).employerNumber(scope.employer.facts.country);

/** The quarter's return, made from nothing but posted lines. */
export async function quarterlyReturn(scope: Scope, { year, quarter }: Quarter): Promise<Return> {
  const from = dateOf(year, quarter * 3 - 2, 1);
  const to = lastOfMonth(year, quarter * 3);
  const rows = await select<{ payDate: string; payslips: number; sums: Record<string, number> }>(
    scope.database,
    `select d.counts_on as "payDate", json_object_agg(d.code, d.amount) as sums,
            (select count(distinct l.payslip_id) from ledger_lines l where l.employer_id = :employer and l.counts_on = d.counts_on) as payslips
     from (select counts_on, code, sum(amount)::bigint as amount from ledger_lines where employer_id = :employer and counts_on between :from and :to group by counts_on, code) d
     group by d.counts_on order by d.counts_on`,
    { employer: scope.employer.id, from, to },
  );
  const twelfth = dateOf(year, quarter * 3, 12);
  const [count] = await select<{ people: number }>(
    scope.database,
    `select count(distinct y.person_id) as people from payslips y join pay_runs r on r.id = y.run_id
     where r.employer_id = :employer and y.state = 'posted' and r.period_from <= :twelfth and r.period_to >= :twelfth
       and not exists (select 1 from people p where p.id = y.person_id and p.kind = 'contractor')`,
    { employer: scope.employer.id, twelfth },
  );
  const made = filingsOf(scope).quarterlyReturn(from, rows, count?.people ?? 0, 0);
  const due = filingsOf(scope).returnDue(year, quarter);
  const outOfStep = await balancesOutOfStep(scope, packOf(scope.employer.country).taxYearOf(from).label);
  return {
    ...made,
    checks: [
      ...made.checks,
      {
        sentence: outOfStep.length
          ? `${outOfStep.length} balances do not equal the ledger`
          : 'Balances kept for each person equal the sums of the ledger',
        holds: outOfStep.length === 0,
      },
    ],
    employer: { name: scope.employer.name, number: employerNumber(scope) },
    due,
    complete: scope.employer.today > to,
  };
}

/** Posted lines behind a figure: by payslip, largest first. */
export async function behind(scope: Scope, { codes, from, to, person }: ParsedQueryOf<'behind'>): Promise<Behind> {
  const wanted = codes.split(',').filter(Boolean);
  if (!wanted.length) return { total: 0, entries: [] };
  const entries = await select<Behind['entries'][number]>(
    scope.database,
    `select l.payslip_id as "payslipId", l.run_id as "runId", l.person_id as "personId", p.given_name || ' ' || p.family_name as name, l.pay_date as "payDate",
            min(l.label) as label, l.code, sum(l.amount)::bigint as amount
     from ledger_lines l join people p on p.id = l.person_id
     where l.employer_id = :employer and l.code in (:wanted) and l.counts_on between :from and :to ${person ? 'and l.person_id = :person' : ''}
     group by l.payslip_id, l.run_id, l.person_id, p.given_name, p.family_name, l.pay_date, l.code order by abs(sum(l.amount)) desc, l.pay_date`,
    { employer: scope.employer.id, wanted, from, to, person },
  );
  return { total: entries.reduce((sum, entry) => sum + entry.amount, 0), entries };
}

/** Statements of everyone paid in a year with what must be fixed before they are given out. */
export async function yearEnd(scope: Scope, year: number): Promise<YearEnd> {
  const filings = filingsOf(scope);
  const people = await select<{
    personId: string;
    name: string;
    sealed: Buffer | null;
    last4: string | null;
    shared: boolean;
    address: { line1?: string; city?: string; postcode?: string } | null;
    sums: Record<string, number>;
  }>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, p.number_sealed as sealed, p.number_last4 as last4, p.address,
            p.number_fingerprint is not null and exists (select 1 from people o where o.employer_id = p.employer_id and o.id <> p.id and o.number_fingerprint = p.number_fingerprint) as shared,
            b.sums
     from (select person_id, json_object_agg(code, amount) as sums from balances where employer_id = :employer and tax_year = :year group by person_id) b
     join people p on p.id = b.person_id order by p.family_name, p.given_name, p.code`,
    { employer: scope.employer.id, year: String(year) },
  );
  // Who was paid as a contractor only has no wages to state.
  const stated = people
    .map((person) => ({ ...person, boxes: filings.statement(person.sums) }))
    .filter(({ boxes }) => boxes.some((box) => box.amount));
  const statements = stated.map(({ boxes, ...person }) => {
    const number = person.sealed ? theVault().openIfOf(person.sealed, `number:${person.personId}`) : undefined;
    const address = Boolean(person.address?.line1 && person.address.city && person.address.postcode);
    return {
      personId: person.personId,
      name: person.name,
      number: person.last4 ? packFor(scope).person.number.masked(person.last4) : null,
      boxes,
      checks: filings.checkStatement(year, boxes, {
        name: person.name,
        shared: person.shared,
        address,
        ...(number === undefined ? {} : { number }),
      }),
    };
  });
  const ledger = await select<{ code: string; amount: number }>(
    scope.database,
    'select code, sum(amount)::bigint as amount from ledger_lines where employer_id = :employer and tax_year = :year group by code',
    { employer: scope.employer.id, year: String(year) },
  );
  const inLedger = new Map(ledger.map((row) => [row.code, row.amount]));
  const tied = ['1', '2', '3', '4', '5', '6'].map((box) => {
    const all = statements.map((statement) => statement.boxes.find((candidate) => candidate.box === box));
    const sum = all.reduce((total, found) => total + (found?.amount ?? 0), 0);
    const codes = all.find(Boolean)?.codes ?? [];
    const posted = codes.reduce((total, code) => total + (inLedger.get(code) ?? 0), 0);
    return { sentence: `Box ${box} of all statements ${written(sum)}, ledger ${written(posted)}`, holds: sum === posted };
  });
  return { year, form: filings.statementForm, source: filings.statementSource, statements, tied };
}

export async function quarterlyPdf(scope: Scope, quarter: Quarter): Promise<Buffer> {
  const made = await quarterlyReturn(scope, quarter);
  const sheet = new Sheet(`Form ${made.form}, quarter ${made.quarter} of ${made.year}`, packFor(scope).paper).page();
  sheet.title(`Form ${made.form}, quarter ${made.quarter} of ${made.year}`, 'Working copy, not for filing');
  sheet.text(`${made.employer.name}, employer number ${made.employer.number}. Due ${writtenDay(made.due)}.`, { color: SECOND_INK });
  sheet.heading('Lines');
  for (const line of made.lines) {
    sheet.row(
      [
        { text: line.line, at: LEFT, width: 50 },
        { text: line.label, at: LEFT + 52, width: 340 },
        { text: line.unit === 'money' ? written(line.amount) : String(line.amount), at: RIGHT, right: true, width: 110 },
      ],
      line.line === '12' ? 'bold' : 'text',
    );
    sheet.small([{ text: line.working, at: LEFT + 52, width: 400 }]);
  }
  sheet.heading('Liability by pay date (Schedule B)');
  for (const day of made.liability)
    sheet.row([
      { text: writtenDay(day.payDate), at: LEFT },
      { text: written(day.amount), at: RIGHT, right: true, width: 110 },
    ]);
  sheet.rule('#1E2730').row(
    [
      { text: 'Sum', at: LEFT },
      { text: written(made.liability.reduce((sum, day) => sum + day.amount, 0)), at: RIGHT, right: true, width: 110 },
    ],
    'bold',
  );
  sheet.heading('Checks');
  for (const check of made.checks) sheet.text(`${check.holds ? 'Holds' : 'Does not hold'}: ${check.sentence}`);
  sheet.text(made.source, { color: SECOND_INK, size: 8 });
  return sheet.finish(made.employer.name);
}

export async function statementsPdf(scope: Scope, year: number, person: string | undefined): Promise<Buffer> {
  const made = await yearEnd(scope, year);
  const statements = made.statements.filter((statement) => !person || statement.personId === person);
  if (!statements.length) throw notFound('statement');
  const { address } = scope.employer.facts;
  const sheet = new Sheet(`Form ${made.form} for ${year}, draft print`, packFor(scope).paper);
  for (const statement of statements) {
    sheet.page().title(`Form ${made.form} for ${year}`, 'Draft print, not for filing');
    sheet.row(
      [
        { text: statement.name, at: LEFT, width: 300 },
        { text: `Number ${statement.number ?? 'missing'}`, at: RIGHT, right: true },
      ],
      'bold',
    );
    sheet.text(`${scope.employer.name}, ${packFor(scope).person.address.line(address)}. Employer number ${employerNumber(scope)}.`, {
      color: SECOND_INK,
    });
    sheet.heading('Boxes');
    for (const box of statement.boxes)
      sheet.row([
        { text: box.box, at: LEFT, width: 70 },
        { text: box.label, at: LEFT + 74, width: 320 },
        { text: written(box.amount), at: RIGHT, right: true, width: 110 },
      ]);
    if (statement.checks.length) sheet.heading('To fix before it is given out');
    for (const check of statement.checks) sheet.text(check.sentence);
  }
  return sheet.finish(`${scope.employer.name}, ${made.source}`);
}

export async function statementsCsv(scope: Scope, year: number): Promise<string> {
  const made = await yearEnd(scope, year);
  const boxes = [...new Map(made.statements.flatMap((statement) => statement.boxes.map((box) => [box.box, box.label] as const))).keys()];
  return csvOf([
    ['Name', 'Number', ...boxes.map((box) => `Box ${box}`), 'Open checks'],
    ...made.statements.map((statement) => [
      statement.name,
      statement.number ?? '',
      ...boxes.map((box) => decimalOf(statement.boxes.find((candidate) => candidate.box === box)?.amount ?? 0)),
      statement.checks.length,
    ]),
  ]);
}

/** Makes the balances anew from the ledger: for use when they were found out of step. */
export async function rebuildBalances(scope: Scope): Promise<void> {
  await changing(scope, async (transaction) => {
    await execute(scope.database, 'delete from year_sums where employer_id = :employer', { employer: scope.employer.id }, transaction);
    await execute(
      scope.database,
      `insert into year_sums (employer_id, person_id, tax_year, sums)
       select employer_id, person_id, tax_year, jsonb_object_agg(code, amount)
       from (select employer_id, person_id, tax_year, code, sum(amount) as amount from ledger_lines where employer_id = :employer group by 1, 2, 3, 4) as summed group by 1, 2, 3`,
      { employer: scope.employer.id },
      transaction,
    );
  });
}
