import {
  filedAttempt,
  type CountryPack,
  type PostalAddress,
  type DaySums,
  type Filing,
  type FilingFacts,
  type FilingPeriod,
  type ItemInBox,
  type PersonSums,
} from '@woodruff/core';
import { select, together } from '../database/connection';
import { reckonedUpTo } from '../journal/reckonings';
import { paidTowards } from '../remittances/owed';
import { theVault } from '../vault/vault';
import { packFor, type Scope } from '../scope';
import { earlierPay } from './earlier';
import { contentOf, eventsOf } from './events';

/** What a filing is made from: posted lines that count in its period, and what is on file of the people. */
export async function factsOf(
  scope: Scope,
  filing: Filing,
  period: FilingPeriod,
): Promise<{ facts: FilingFacts; shown: Map<string, { last4: string | null; to: string[] }> }> {
  const counting = filing.counts?.on(period) ?? [];
  // Each is a look at the whole ledger of the period: beside each other they take as long as the longest.
  const [people, days, earlier, headcounts, gross, byPlace, paid, entered, items, filed, reckoned] = await together(
    () => (filing.from === 'people' ? peopleOf(scope, filing, period) : []),
    () => daysOf(scope, period),
    () => earlierPay(scope, filing, period),
    () => together(...counting.map((day) => () => headcountOn(scope, day, filing.counts?.with))),
    () => grossOf(scope, period),
    () => (filing.along ? byPlaceOf(scope, period, filing.along) : {}),
    () => paidTowards(scope, filing.code, period),
    () => enteredIn(scope, filing.code, period.key),
    () => (filing.copies ? itemsInBoxes(scope, period.taxYear) : []),
    () => filedLines(scope, filing, period.taxYear),
    () => (packFor(scope).reckonings ? reckonedUpTo(scope, period.taxYear, period.to) : {}),
  );
  return {
    facts: {
      period,
      days,
      people: people.map(({ last4: _last4, to: _to, ...person }) => person),
      headcounts,
      gross,
      byPlace,
      reckoned,
      employer: scope.employer.facts.country,
      paid: paid + earlier.deposits.reduce((sum, { amount }) => sum + amount, 0),
      earlier,
      entered,
      items,
      filed,
    },
    shown: new Map(people.map(({ personId, last4, to }) => [personId, { last4, to }])),
  };
}

/** Items that the employer has put into boxes, as it holds in a tax year. */
export const itemsInBoxes = (scope: Scope, year: string): Promise<ItemInBox[]> =>
  select(
    scope.database,
    `select code, filing, box, label from (select distinct on (b.item_id) i.code, b.filing, b.box, b.label, b.derived from item_boxes b join pay_items i on i.id = b.item_id
       where b.employer_id = :employer and b.from_year <= :year order by b.item_id, b.from_year desc) x where not derived and box <> '' order by code`,
    { employer: scope.employer.id, year },
  );

/** Lines of the filings that one is compared with, as they were filed last, added up over a tax year. */
async function filedLines(scope: Scope, filing: Filing, year: string): Promise<FilingFacts['filed']> {
  const found: Record<string, { periods: number; lines: Record<string, number> }> = {};
  for (const code of filing.against ?? []) {
    const other = packFor(scope)
      .filings(scope.employer.facts.country)
      .find((one) => one.code === code);
    const first = Number(year.slice(0, 4));
    const periods = [first, first + 1].flatMap((one) => other?.periods(one) ?? []).filter(({ taxYear }) => taxYear === year);
    const sums = { periods: 0, lines: {} as Record<string, number> };
    for (const { key } of periods) {
      const attempt = filedAttempt(await eventsOf(scope, code, key));
      const content = attempt === undefined ? undefined : await contentOf(scope, code, key, attempt);
      if (!content) continue;
      sums.periods += 1;
      for (const { line, amount } of content.lines) sums.lines[line] = (sums.lines[line] ?? 0) + amount;
    }
    found[code] = sums;
  }
  return found;
}

/** What was entered last for each line. */
export async function enteredIn(scope: Scope, filing: string, period: string): Promise<FilingFacts['entered']> {
  const rows = await select<{ line: string; amount: number; reason: string }>(
    scope.database,
    `select line, amount, reason from (select distinct on (line) line, amount, reason from filing_entries where employer_id = :employer and filing = :filing and period = :period order by line, id desc) e where amount is not null`,
    { employer: scope.employer.id, filing, period },
  );
  return Object.fromEntries(rows.map(({ line, ...entry }) => [line, entry]));
}

const daysOf = (scope: Scope, { from, to }: FilingPeriod): Promise<DaySums[]> =>
  select(
    scope.database,
    `select d.counts_on as "payDate", json_object_agg(d.code, d.amount) as sums, min(n.payslips)::int as payslips
     from (select counts_on, code, sum(amount)::bigint as amount from ledger_lines where employer_id = :employer and counts_on between :from and :to group by counts_on, code) d
     join (select counts_on, count(*) as payslips from (select distinct counts_on, payslip_id from ledger_lines where employer_id = :employer and counts_on between :from and :to) p group by counts_on) n on n.counts_on = d.counts_on
     group by d.counts_on order by d.counts_on`,
    { employer: scope.employer.id, from, to },
  );

/** Earnings and benefits in kind of employees, as posted. */
async function grossOf(scope: Scope, { from, to }: FilingPeriod): Promise<number> {
  const [row] = await select<{ gross: number }>(
    scope.database,
    `select coalesce(sum(l.amount), 0)::bigint as gross from ledger_lines l where l.employer_id = :employer and l.counts_on between :from and :to and l.kind in ('earning', 'benefit-in-kind')
     and not exists (select 1 from people p where p.id = l.person_id and p.kind = 'contractor')`,
    { employer: scope.employer.id, from, to },
  );
  return row?.gross ?? 0;
}

/** A code summed by the place of another one on the same payslip; under nothing where a payslip has none. */
async function byPlaceOf(
  scope: Scope,
  { from, to }: FilingPeriod,
  { of, places }: NonNullable<Filing['along']>,
): Promise<Record<string, number>> {
  const rows = await select<{ place: string; amount: number }>(
    scope.database,
    `select coalesce(p.place, '') as place, sum(l.amount)::bigint as amount
     from (select payslip_id, sum(amount) as amount from ledger_lines where employer_id = :employer and counts_on between :from and :to and code = :of group by 1 having sum(amount) <> 0) l
     left join lateral (select split_part(o.code, '@', 2) as place from ledger_lines o where o.payslip_id = l.payslip_id and (o.code like :places || '@%' or o.code like :places || '.wages@%') order by abs(o.amount) desc limit 1) p on true group by 1`,
    { employer: scope.employer.id, from, to, of, places },
  );
  return Object.fromEntries(rows.map(({ place, amount }) => [place, amount]));
}

async function headcountOn(scope: Scope, date: string, code?: string): Promise<number> {
  const [count] = await select<{ people: number }>(
    scope.database,
    `select count(distinct y.person_id) as people from payslips y join pay_runs r on r.id = y.run_id
     where r.employer_id = :employer and y.state = 'posted' and r.period_from <= :date and r.period_to >= :date ${code ? 'and exists (select 1 from ledger_lines l where l.payslip_id = y.id and l.code = :code)' : ''}
       and not exists (select 1 from people p where p.id = y.person_id and p.kind = 'contractor')`,
    { employer: scope.employer.id, date, code },
  );
  return count?.people ?? 0;
}

/** Name and address as a letter has them, a line each. */
function addressed(pack: CountryPack, name: string, address: Partial<PostalAddress>): string[] {
  const { line1, line2, ...town } = { line1: '', line2: '', city: '', state: '', postcode: '', ...address };
  return [name, line1, line2, pack.person.address.line({ line1: '', line2: '', ...town })].filter(Boolean);
}

/** Everybody with anything posted in the period, by name: of a tax year from its sums, of a part of one from the lines. Numbers are opened to be checked, and shown masked. */
async function peopleOf(
  scope: Scope,
  filing: Filing,
  { key, taxYear, from, to }: FilingPeriod,
): Promise<(PersonSums & { last4: string | null; to: string[] })[]> {
  const year = packFor(scope).taxYearOf(to);
  const whole = from === year.from && to === year.to;
  // A correction states the year as it stands now: what was reported of later pay dates stays within it.
  const corrects = filing.statesYear && filedAttempt(await eventsOf(scope, filing.code, key)) !== undefined;
  const stated = corrects ? year.to : to;
  const rows = await select<{
    personId: string;
    name: string;
    givenName: string;
    familyName: string;
    marked: PersonSums['marked'] | null;
    sealed: Buffer | null;
    last4: string | null;
    shared: boolean;
    address: Partial<PostalAddress> | null;
    left: string | null;
    details: Record<string, unknown> | null;
    sums: Record<string, number>;
    toDate: Record<string, number> | null;
  }>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, p.given_name as "givenName", p.family_name as "familyName", p.number_sealed as sealed, p.number_last4 as last4, p.address, p."left",
            p.number_fingerprint is not null and exists (select 1 from people o where o.employer_id = p.employer_id and o.id <> p.id and o.number_fingerprint = p.number_fingerprint) as shared,
            (select d.facts from tax_details d where d.person_id = p.id and d.from_date <= :to order by d.from_date desc limit 1) as details, b.sums,
            ${filing.statesYear ? '(select json_object_agg(code, amount) from (select code, sum(amount)::bigint as amount from ledger_lines where person_id = p.id and tax_year = :taxYear and counts_on <= :stated group by 1) t)' : 'null'} as "toDate",
            (select json_object_agg(m.box, json_build_object('text', m.text, 'reason', m.reason)) from (select distinct on (box) box, text, reason from copy_marks where employer_id = :employer and filing = :filing and period = :key and person_id = p.id order by box, id desc) m where m.text is not null) as marked
     from (select person_id, json_object_agg(code, amount) as sums from ${whole ? 'balances where employer_id = :employer and tax_year = :taxYear' : '(select person_id, code, sum(amount)::bigint as amount from ledger_lines where employer_id = :employer and counts_on between :from and :to group by 1, 2) q'} group by person_id) b
     join people p on p.id = b.person_id order by p.family_name, p.given_name, p.code`,
    { employer: scope.employer.id, taxYear, from, to, stated, filing: filing.code, key },
  );
  return rows.map(({ sealed, address, details, marked, toDate, left, ...person }) => {
    const number = sealed ? theVault().openIfOf(sealed, `number:${person.personId}`) : undefined;
    return {
      ...person,
      to: address ? addressed(packFor(scope), `${person.givenName} ${person.familyName}`, address) : [],
      ...(toDate ? { toDate } : {}),
      ...(left ? { left } : {}),
      details: details ?? {},
      marked: marked ?? {},
      address: Boolean(address?.line1 && address.city && address.postcode),
      ...(number === undefined ? {} : { number }),
    };
  });
}
