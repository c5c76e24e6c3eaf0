import { periodOfFiling, type Filing, type FilingPeriod } from '@woodruff/core';
import { select, together } from '../database/connection';
import { notFound } from '../errors';
import { reckonedDays } from '../journal/reckonings';
import { balancesOutOfStep } from '../ledger/posting';
import { packFor, type Scope } from '../scope';
import type { Content } from './events';
import { earlierChecks } from './earlier';
import { factsOf, itemsInBoxes } from './facts';

/** A filing and one of its periods. */
export interface Found {
  filing: Filing;
  period: FilingPeriod;
}

export const filingsOf = (scope: Scope): readonly Filing[] => packFor(scope).filings(scope.employer.facts.country);

/** Days on which anything was paid, for filings that come with each of them. */
export async function payDatesOf(scope: Scope): Promise<string[]> {
  if (!filingsOf(scope).some(({ every }) => every === 'pay-date')) return [];
  const rows = await select<{ day: string }>(
    scope.database,
    // A run of nothing but reversals counts on the days that it reverses.
    `select distinct pay_date as day from pay_runs r where employer_id = :employer and state = 'approved' and kind not in ('opening', 'adjustment')
       and exists (select 1 from ledger_lines l where l.run_id = r.id and l.counts_on = r.pay_date) order by 1`,
    { employer: scope.employer.id },
  );
  return rows.map(({ day }) => day);
}

/** Whether a filing of the period has anything to say. */
export async function isAskedFor(scope: Scope, payDates: readonly string[]): Promise<(filing: Filing, period: FilingPeriod) => boolean> {
  const days = { paid: payDates, reckoned: packFor(scope).reckonings ? await reckonedDays(scope) : [], today: scope.employer.today };
  return (filing, period) => filing.asked?.(period, days) ?? true;
}

/** Those that the employer has anything to file with. */
export async function filingsWanted(scope: Scope): Promise<Filing[]> {
  const all = filingsOf(scope);
  const boxed = all.some(({ onlyBoxed }) => onlyBoxed)
    ? await itemsInBoxes(scope, packFor(scope).taxYearOf(scope.employer.today).label)
    : [];
  const codes = all.flatMap(({ only }) => only ?? []);
  const isBoxed = ({ code, onlyBoxed }: Filing): boolean => !onlyBoxed || boxed.some(({ filing }) => filing === code);
  if (!codes.length) return all.filter(isBoxed);
  const posted = await select<{ code: string }>(
    scope.database,
    'select distinct code from balances where employer_id = :employer and code in (:codes)',
    { employer: scope.employer.id, codes },
  );
  return all.filter((one) => isBoxed(one)).filter(({ only }) => only === undefined || posted.some(({ code }) => code === only));
}

/** A filing of the employer's country and one of its periods. */
export function filingOf(scope: Scope, code: string, key: string): Found {
  const filing = filingsOf(scope).find((one) => one.code === code);
  const period = filing && periodOfFiling(filing, key);
  if (!period) throw notFound('filing');
  return { filing, period };
}

/** A filing as posted lines make it now, and nothing else. */
export async function madeNow(scope: Scope, { filing, period }: Found): Promise<Content> {
  const [{ facts, shown }, outOfStep] = await together(
    () => factsOf(scope, filing, period),
    () => balancesOutOfStep(scope, period.taxYear),
  );
  const made = filing.make(facts);
  const names = new Map(facts.people.map(({ personId, name }) => [personId, name]));
  const pack = packFor(scope);
  return {
    ...made,
    detail: made.detail
      ? {
          ...made.detail,
          columns: [...made.detail.columns],
          rows: made.detail.rows.map(({ personId, values }) => ({ personId, values: [...values], name: names.get(personId) ?? '' })),
        }
      : null,
    copies: made.copies.map((copy) => {
      const { last4 = null, to = [] } = shown.get(copy.personId) ?? {};
      return { ...copy, name: names.get(copy.personId) ?? '', number: last4 ? pack.person.number.masked(last4) : null, to, control: null };
    }),
    checks: [
      ...made.checks,
      ...(await earlierChecks(scope, filing, facts)),
      {
        sentence: outOfStep.length
          ? `${outOfStep.length} balances do not equal the ledger`
          : 'Balances kept for each person equal the sums of the ledger',
        holds: outOfStep.length === 0,
      },
    ],
    employer: { name: scope.employer.name, number: pack.employerNumber(scope.employer.facts.country) },
  };
}
