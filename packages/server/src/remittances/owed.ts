import { dueBy, ruleInWords, sinceBy, type DueRule, type Owed, type PayItem, type Source } from '@woodruff/core';
import { select } from '../database/connection';
import { holidaysOf, packFor, type Scope } from '../scope';

/** A payee and what is owed to it, by law or by the items of the employer. */
export interface OwedTo extends Owed {
  /** Paid for each person by itself, with the case that the payee knows it by. */
  byPerson: boolean;
  purpose: 'payee' | 'support';
}

/** What payees outside the law want, until their page says otherwise: by the fifteenth of the following month. */
export const AGREED: DueRule = { by: 'month', day: 15 };

interface PayeeRow {
  name: string;
  rule: DueRule | null;
}

/** Whom the employer owes: agencies by the country's law, and whoever its items and orders name. */
export async function owedBy(scope: Scope): Promise<OwedTo[]> {
  const pack = packFor(scope);
  const byLaw = pack.moneyOwed(scope.employer.facts.country).map((owed): OwedTo => ({ ...owed, byPerson: false, purpose: 'payee' }));
  const items = await select<{ definition: PayItem }>(
    scope.database,
    `select definition from pay_items where employer_id = :employer and definition->>'kind' in ('deduction', 'employer-contribution') and coalesce(definition->'goes'->>'payee', '') <> '' order by definition->>'name'`,
    { employer: scope.employer.id },
  );
  const rules = new Map(
    (
      await select<PayeeRow>(scope.database, 'select name, rule from payees where employer_id = :employer', { employer: scope.employer.id })
    ).map(({ name, rule }) => [name, rule]),
  );
  const isHoliday = holidaysOf(scope);
  const byPayee = new Map<string, PayItem[]>();
  for (const { definition } of items) {
    const payee = definition.goes?.payee ?? '';
    byPayee.set(payee, [...(byPayee.get(payee) ?? []), definition]);
  }
  const agreed = [...byPayee].map(([payee, some]): OwedTo => {
    const treatments = some.map(({ treatment }) => pack.treatments[treatment]);
    const law = treatments.find((treatment) => treatment?.remitted)?.remitted;
    const rule = law?.rule ?? rules.get(payee) ?? AGREED;
    const what = some.map(({ name }) => name).join(', ');
    return {
      code: `payee:${payee}`,
      what,
      payee,
      codes: some.map(({ code }) => code),
      reference: some.find(({ goes }) => goes?.reference)?.goes?.reference ?? '',
      rule: ruleInWords(rule),
      ...(law ? { source: law.source } : {}),
      due: dueBy(rule, what, isHoliday),
      since: (from) => sinceBy(rule, from),
      byPerson: treatments.some((treatment) => treatment?.taken === 'order'),
      purpose: law?.purpose ?? 'payee',
    };
  });
  return [...byLaw, ...agreed];
}

/** One obligation: what a period comes to, what was paid of it, what is left. Minor units. */
export interface Obligation {
  owed: string;
  payee: string;
  what: string;
  reference: string;
  due: string;
  upTo: string;
  amount: number;
  paid: number;
  /** Paid too much of earlier periods, and used here. */
  credit: number;
  left: number;
}

/** What was posted since an earlier system was left, by day. */
async function liabilitiesOf(scope: Scope, codes: readonly string[]): Promise<Map<string, { payDate: string; amount: number }[]>> {
  const rows = await select<{ code: string; payDate: string; amount: number }>(
    scope.database,
    `select code, counts_on as "payDate", amount from owed_days where employer_id = :employer and code in (:codes) order by counts_on`,
    { employer: scope.employer.id, codes: [...codes] },
  );
  const byCode = new Map<string, { payDate: string; amount: number }[]>();
  for (const { code, ...liability } of rows) byCode.set(code, [...(byCode.get(code) ?? []), liability]);
  return byCode;
}

/** What was paid of each obligation, by what is owed and its day: not what came back, was stopped or undone. */
const PAID = `select m.owed, m.due, max(m.up_to) as "upTo", sum(m.amount - coalesce((select sum(t.amount) from transfers t where t.remittance_id = m.id
    and exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('returned', 'refused', 'stopped', 'dropped'))), 0))::bigint as paid
  from remittances m where m.employer_id = :employer and m.undone is null group by m.owed, m.due`;

/** Every obligation there has been, by payee and day; what was paid too much goes to the next of the same payee. */
export async function obligationsOf(scope: Scope, only?: string): Promise<Obligation[]> {
  const owed = (await owedBy(scope)).filter(({ code }) => only === undefined || code === only);
  const codes = [...new Set(owed.flatMap((one) => one.codes))];
  if (!codes.length) return [];
  const liabilities = await liabilitiesOf(scope, codes);
  const allPaid = await select<{ owed: string; due: string; upTo: string; paid: number }>(scope.database, PAID, {
    employer: scope.employer.id,
  });
  const paid = new Map(allPaid.map((row) => [`${row.owed} ${row.due}`, row.paid]));
  const made: Obligation[] = [];
  for (const one of owed) {
    if (!one.due) continue;
    const all = one.codes.flatMap((code) => liabilities.get(code) ?? []).sort((a, b) => (a.payDate < b.payDate ? -1 : 1));
    const due = one.due(all);
    // Two payments of one payee on one day are one obligation.
    const byDay = new Map<string, { what: string; amount: number; upTo: string }>();
    for (const { date, what, amount, upTo } of due) {
      const known = byDay.get(date);
      byDay.set(date, { what, amount: (known?.amount ?? 0) + amount, upTo: known && known.upTo > upTo ? known.upTo : upTo });
    }
    // What was paid of something of which nothing is left stays: it is paid too much, and used by the next one.
    for (const { owed: code, due: date, upTo, paid: given } of allPaid)
      if (code === one.code && given !== 0 && !byDay.has(date)) byDay.set(date, { what: one.what, amount: 0, upTo });
    let credit = 0;
    for (const [date, { what, amount, upTo }] of [...byDay].sort(([a], [b]) => (a < b ? -1 : 1))) {
      const given = paid.get(`${one.code} ${date}`) ?? 0;
      const open = amount - given;
      const used = Math.max(0, Math.min(credit, open));
      credit += Math.max(0, -open) - used;
      made.push({
        owed: one.code,
        payee: one.payee,
        what,
        reference: one.reference,
        due: date,
        upTo,
        amount,
        paid: given,
        credit: used,
        left: Math.max(0, open) - used,
      });
    }
  }
  return made.sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : a.payee < b.payee ? -1 : 1));
}

/** What was paid towards a filing: deposits of what it reports, of liabilities within its period. */
export async function paidTowards(scope: Scope, filing: string, { from, to }: { from: string; to: string }): Promise<number> {
  const codes = (await owedBy(scope)).filter((one) => one.filing === filing).map(({ code }) => code);
  if (!codes.length) return 0;
  const [row] = await select<{ paid: number }>(
    scope.database,
    `select coalesce(sum(paid), 0)::bigint as paid from (${PAID.replace('m.undone is null', 'm.undone is null and m.owed in (:codes) and m.up_to between :from and :to')}) p`,
    { employer: scope.employer.id, codes, from, to },
  );
  return row?.paid ?? 0;
}

export const sourceWords = (source: Source | undefined): string =>
  source ? `${[source.publication, source.section].filter(Boolean).join('; ')}${source.unconfirmed ? ' (unconfirmed)' : ''}` : '';
