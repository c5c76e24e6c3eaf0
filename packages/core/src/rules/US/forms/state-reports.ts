import { assignedRate } from '../facts';
import { calendarYear, quarters } from './periods';
import { dateOf, yearOf } from '../../../calendar/dates';
import { textOf } from '../../../filings/sender';
import type { Filing, FilingCheck, FilingFacts, FilingPeriod, MadeFiling } from '../../../filings/filing';
import { liabilityByDay } from '../../../filings/earlier';
import { Lines } from '../../../filings/lines';
import { atPlace } from '../../../ledger/codes';
import { written } from '../../../money/amounts';
import { Exact } from '../../../money/exact';
import type { UsEmployer } from '../facts';
import { wageFile, type WageLayout } from '../files/quarterly-wages';
import { stateFile } from '../files/state-csv';
import { payCodeOf } from '../states/programmes';
import type { Programme, State } from '../states/state';
import { percentOf, sumOf } from './withheld-taxes';

const STATEMENT = 'I have looked at this report. To the best of my knowledge and belief it is true, correct and complete.';

const wagesOf = (state: State, { ceiling }: Programme): string | undefined =>
  ceiling && atPlace(`${ceiling.pay.replace(/\.pay$/, '')}.wages`, state.place);

/** What filings about a payee's programmes are counted under when they are paid. */
export const reportCode = (state: State, index: number): string => `${state.code.toLowerCase()}-${index + 1}`;
export const incomeCode = (state: State): string => `${state.code.toLowerCase()}-income`;

/** Programmes of a state by who is paid, the agency of the most first. */
export function programmesByPayee(state: State): [payee: string, programmes: Programme[]][] {
  const by = new Map<string, Programme[]>();
  for (const programme of state.programmes) {
    const payee = programme.payee ?? state.agencies.programmes;
    by.set(payee, [...(by.get(payee) ?? []), programme]);
  }
  return [...by];
}

/** Every report that a state wants of an employer that is registered there, and its places. */
export function stateReports(state: State, employer: Partial<UsEmployer>): Filing[] {
  return [
    ...programmesByPayee(state).map(([payee, programmes], index) => contributions(state, { payee, programmes, index, employer })),
    ...(state.incomeTax && state.agencies.incomeTax
      ? [incomeReturn(state, state.agencies.incomeTax), reconciliation(state, state.agencies.incomeTax)]
      : []),
    ...(state.localPlaces?.(employer) ?? []).map((local) => localReturn(state, local)),
  ];
}

/** Wages of everybody in a quarter and what the programmes of one agency take of them. */
function contributions(
  state: State,
  { payee, programmes, index, employer }: { payee: string; programmes: Programme[]; index: number; employer: Partial<UsEmployer> },
): Filing {
  const forms = state.forms?.programmes?.[index];
  const pay = programmes.find(({ ceiling }) => ceiling) ?? programmes.find(({ perHour }) => !perHour);
  const payCode = pay ? payCodeOf(state, pay) : undefined;
  const names = programmes.map(({ label }) => label);
  const title = forms ?? `${state.name} quarterly report`;
  const account = (of: object): string => accountsOf(of, state, index === 0);
  return {
    code: reportCode(state, index),
    form: title,
    name: index === 0 ? 'Contributions and wages' : (names[0] ?? 'Contributions'),
    agency: payee,
    place: state.place,
    every: 'quarter',
    from: 'people',
    periods: quarters,
    overrides: ['wages', ...programmes.map((_, at) => `${at + 1} taxable`)],
    ...(payCode ? { counts: { on: ({ from, to }: FilingPeriod) => monthsOf(from, to), with: payCode } } : {}),
    file:
      index === 0 && state.commonWageLayout && payCode ? wageFile(title, account, layoutOf(state, programmes)) : stateFile(title, account),
    owed: atPlace(`us.programmes-${index + 1}`, state.place),
    statement: STATEMENT,
    make(facts) {
      const lines = new Lines(facts.entered, this.overrides ?? []);
      const checks: FilingCheck[] = [];
      facts.headcounts.forEach((people, month) =>
        lines.count(`month ${month + 1}`, people, {
          label: `People paid for the period that includes the 12th, month ${month + 1}`,
          working: 'People with a payslip here whose period includes that day.',
        }),
      );
      const gross = payCode
        ? lines.money('wages', sumOf(facts.days, [payCode]), {
            label: 'Wages of the quarter',
            codes: [payCode],
            working: 'Pay that counts here, posted in the quarter.',
          })
        : 0;
      let due = 0;
      programmes.forEach((programme, at) => {
        const code = atPlace(programme.code, state.place);
        const taken = sumOf(facts.days, [code]);
        const wages = wagesOf(state, programme);
        if (!wages && programme.perHour) {
          due += lines.money(`${at + 1}`, taken, {
            label: labelOf(programme),
            codes: [code],
            working: 'By hours worked, posted in the quarter.',
          });
          return;
        }
        const counted = wages ? sumOf(facts.days, [wages]) : gross;
        if (wages && programmes.findIndex((one) => wagesOf(state, one) === wages) === at)
          lines.money(`${at + 1} over`, gross - counted, {
            label: `Of that over the ceiling, ${labelOf(programme)}`,
            working: 'Wages of the quarter less those up to the ceiling of each person.',
          });
        const taxable = lines.money(`${at + 1} taxable`, counted, {
          label: `Taxable, ${labelOf(programme)}`,
          codes: wages ? [wages] : payCode ? [payCode] : [],
          working: wages ? 'Posted up to the ceiling of each person.' : 'Wages of the quarter.',
        });
        const assigned =
          'assigned' in programme.rate ? assignedRate(employer.states?.[state.code], programme.rate.assigned, facts.period.to) : undefined;
        const reckoned = assigned === undefined ? taken : percentOf(taxable, Exact.of(assigned));
        due += lines.money(`${at + 1}`, reckoned, {
          label: labelOf(programme),
          codes: [code],
          working:
            assigned === undefined
              ? 'Posted in the quarter, each payslip rounded by itself.'
              : `${written(taxable)} × ${assigned}%, rounded to the cent. Posted ${written(taken)}, each payslip rounded by itself.`,
        });
        if (assigned !== undefined)
          checks.push({
            sentence: `${programme.label}: ${written(reckoned)} by the rate, ${written(taken)} posted; they differ by rounding only`,
            holds: Math.abs(reckoned - taken) * 2 <= facts.days.reduce((all, { payslips }) => all + payslips, 0) + 1,
          });
      });
      lines.money('due', due, { label: 'Contributions in all', working: 'Sum of the contributions above.', sum: true });
      settled(lines, due, facts);
      return {
        lines: lines.all,
        byDay: null,
        copies: [],
        ...(payCode ? { detail: wageDetail(state, programmes, payCode, facts) } : {}),
        checks: [...checks, ...detailChecks(payCode, facts)],
        source: `${payee}: ${forms ?? 'quarterly report'}, from memory and unconfirmed`,
      };
    },
  };
}

const layoutOf = ({ fips }: State, programmes: readonly Programme[]): WageLayout => {
  const lines = (from: Programme['from']) => programmes.flatMap((programme, at) => (programme.from === from ? [`${at + 1}`] : []));
  return { stateNumber: fips, due: lines('employer'), fromEmployees: lines('employee') };
};

type Registered = { states?: Partial<Record<string, { unemploymentAccount?: string; incomeTaxAccount?: string }>>; federalNumber?: string };

/** By which number the agency knows the employer: its own account, or the federal number where it has none of its own. */
const accountsOf = (employer: object, { code }: State, first: boolean): string => {
  const { states, federalNumber = '' } = employer as Registered;
  return first ? (states?.[code]?.unemploymentAccount ?? '') : federalNumber;
};
const incomeAccountOf = (employer: object, { code }: State): string => (employer as Registered).states?.[code]?.incomeTaxAccount ?? '';

/** Whose share it is, where a programme takes one of both. */
const labelOf = ({ label, from }: Programme): string =>
  from === 'employee' && !label.includes(',') ? `${label}, withheld from employees` : label;

/** The twelfth of each month of a period. */
const monthsOf = (from: string, to: string): string[] => {
  const days: string[] = [];
  for (let month = Number(from.slice(5, 7)); month <= Number(to.slice(5, 7)); month++) days.push(dateOf(yearOf(from), month, 12));
  return days;
};

function settled(lines: Lines, due: number, { paid }: FilingFacts): void {
  lines.money('paid', paid, { label: 'Paid for the period', working: 'Payments recorded for the period.', settles: true });
  lines.money('left', due - paid, {
    label: 'Left to pay, or paid too much',
    working: 'What it comes to less what was paid.',
    settles: true,
  });
}

/** Wages of each person, in all and up to the ceiling of the unemployment fund. */
function wageDetail(
  state: State,
  programmes: readonly Programme[],
  payCode: string,
  { people }: FilingFacts,
): NonNullable<MadeFiling['detail']> {
  const capped = programmes.map((programme) => wagesOf(state, programme)).find((code) => code !== undefined);
  const rows = people
    .map(({ personId, sums }) => ({ personId, values: [sums[payCode] ?? 0, ...(capped ? [sums[capped] ?? 0] : [])] }))
    .filter(({ values }) => values.some((value) => value !== 0));
  return {
    title: 'Wages by person',
    columns: [
      { key: 'wages', label: 'Wages', unit: 'money' },
      ...(capped ? [{ key: 'taxable', label: 'Taxable', unit: 'money' as const }] : []),
    ],
    rows,
  };
}

function detailChecks(payCode: string | undefined, { people, days }: FilingFacts): FilingCheck[] {
  if (!payCode) return [];
  const all = people.reduce((sum, { sums }) => sum + (sums[payCode] ?? 0), 0);
  const posted = sumOf(days, [payCode]);
  const nameless = people.filter(({ sums, number }) => sums[payCode] && !number);
  return [
    { sentence: `Wages of all people ${written(all)} equal the ledger's ${written(posted)}`, holds: all === posted },
    {
      sentence: nameless.length
        ? `${nameless[0]?.name ?? ''}${nameless.length > 1 ? ` and ${nameless.length - 1} more` : ''} have no social security number on file`
        : 'Everybody has a social security number on file',
      holds: nameless.length === 0,
    },
  ];
}

function incomeReturn(state: State, agency: string): Filing {
  const [wages, tax] = [atPlace('us.state-income.wages', state.place), atPlace('us.state-income', state.place)];
  return {
    code: incomeCode(state),
    form: state.forms?.income ?? `${state.name} withholding return`,
    name: 'Income tax withheld',
    agency,
    place: state.place,
    every: 'quarter',
    from: 'days',
    periods: quarters,
    overrides: ['wages', 'withheld'],
    file: stateFile(state.forms?.income ?? `${state.name} withholding return`, (employer) => incomeAccountOf(employer, state)),
    owed: atPlace('us.state-income-deposit', state.place),
    statement: STATEMENT,
    make(facts) {
      const lines = new Lines(facts.entered, this.overrides ?? []);
      lines.money('wages', sumOf(facts.days, [wages]), { label: `${state.name} wages`, codes: [wages], working: 'Posted in the quarter.' });
      const withheld = lines.money('withheld', sumOf(facts.days, [tax]), {
        label: `${state.name} income tax withheld`,
        codes: [tax],
        working: 'Posted in the quarter.',
        sum: true,
      });
      settled(lines, withheld, facts);
      return {
        lines: lines.all,
        byDay: {
          title: 'Withheld by pay date',
          codes: [tax],
          days: liabilityByDay(facts, [tax]),
        },
        copies: [],
        checks: [{ sentence: `Withheld ${written(withheld)} equals the ledger`, holds: withheld === sumOf(facts.days, [tax]) }],
        source: `${agency}: ${state.forms?.income ?? 'withholding return'}, from memory and unconfirmed`,
      };
    },
  };
}

/** The year's statements against the year's returns. */
function reconciliation(state: State, agency: string): Filing {
  const [wages, tax] = [atPlace('us.state-income.wages', state.place), atPlace('us.state-income', state.place)];
  return {
    code: `${state.code.toLowerCase()}-year`,
    form: state.forms?.year ?? `${state.name} annual reconciliation`,
    name: 'Income tax withheld, year',
    agency,
    place: state.place,
    every: 'year',
    from: 'people',
    periods: calendarYear,
    file: stateFile(state.forms?.year ?? `${state.name} annual reconciliation`, (employer) => incomeAccountOf(employer, state)),
    statement: STATEMENT,
    make(facts) {
      const { people, days, period, entered } = facts;
      const lines = new Lines(entered, []);
      const stated = people.filter(({ sums }) => sums[wages] || sums[tax]);
      lines.count('statements', stated.length, {
        label: 'Wage statements with this state',
        working: 'People with wages or tax of the state.',
      });
      lines.money('wages', sumOf(days, [wages]), { label: `${state.name} wages`, codes: [wages], working: 'Posted in the year.' });
      const parts = quarters(yearOf(period.to)).map(({ from, to, label }, index) =>
        lines.money(
          `quarter ${index + 1}`,
          sumOf(
            days.filter(({ payDate }) => payDate >= from && payDate <= to),
            [tax],
          ),
          {
            label: `Withheld, ${label}`,
            codes: [tax],
            working: 'Posted in the quarter.',
          },
        ),
      );
      const all = parts.reduce((sum, amount) => sum + amount, 0);
      lines.money('withheld', all, {
        label: `${state.name} income tax withheld`,
        codes: [tax],
        working: 'Sum of the quarters.',
        sum: true,
      });
      const onStatements = stated.reduce((sum, { sums }) => sum + (sums[tax] ?? 0), 0);
      return {
        lines: lines.all,
        byDay: null,
        copies: [],
        checks: [
          {
            sentence: `Withheld on all statements ${written(onStatements)} equals the quarters ${written(all)}`,
            holds: onStatements === all,
          },
        ],
        source: `${agency}: ${state.forms?.year ?? 'annual reconciliation'}, from memory and unconfirmed`,
      };
    },
  };
}

/** Taxes of a place within a state: earned income by person, and services. */
function localReturn(state: State, { place, name, payee }: { place: string; name: string; payee: string }): Filing {
  const [wages, income, services] = ['us.local-income.wages', 'us.local-income', 'us.local-services'].map((code) =>
    atPlace(code, place),
  ) as [string, string, string];
  return {
    code: localCode(place),
    form: `Local return, ${name}`,
    name: 'Local taxes withheld',
    agency: payee,
    place,
    every: 'quarter',
    from: 'people',
    periods: quarters,
    overrides: ['wages', 'income', 'services'],
    file: stateFile(`Local return, ${name}`, (facts) => textOf(facts, 'federalNumber')),
    owed: atPlace('us.local-deposit', place),
    statement: STATEMENT,
    make(facts) {
      const lines = new Lines(facts.entered, this.overrides ?? []);
      lines.money('wages', sumOf(facts.days, [wages]), { label: 'Local wages', codes: [wages], working: 'Posted in the quarter.' });
      const tax = lines.money('income', sumOf(facts.days, [income]), {
        label: 'Earned income tax withheld',
        codes: [income],
        working: 'Posted in the quarter.',
      });
      const more = lines.money('services', sumOf(facts.days, [services]), {
        label: 'Local services tax withheld',
        codes: [services],
        working: 'Posted in the quarter.',
      });
      const all = lines.money('due', tax + more, { label: 'Withheld in all', working: 'Both taxes.', sum: true });
      settled(lines, all, facts);
      return {
        lines: lines.all,
        byDay: null,
        copies: [],
        detail: {
          title: 'Withheld by person',
          columns: [
            { key: 'wages', label: 'Wages', unit: 'money' },
            { key: 'income', label: 'Earned income tax', unit: 'money' },
            { key: 'services', label: 'Services tax', unit: 'money' },
          ],
          rows: facts.people
            .map(({ personId, sums }) => ({ personId, values: [sums[wages] ?? 0, sums[income] ?? 0, sums[services] ?? 0] }))
            .filter(({ values }) => values.some((value) => value !== 0)),
        },
        checks: detailChecks(income, facts),
        source: `53 Pa.C.S. 6924.512; the collector's own return is followed in its contents, from memory and unconfirmed`,
      };
    },
  };
}

export const localCode = (place: string): string => `local-${place.split('/')[1] ?? place}`.toLowerCase();
