import { addMonths, dateOf, lastOfMonth, monthOf, quarterOf, yearOf, type IsoDate } from '../../calendar/dates';
import { dueBy, ruleInWords, sinceBy, type DueRule } from '../../filings/due-rules';
import type { DuePayment, Liability, Owed } from '../../filings/owed';
import { atPlace } from '../../ledger/codes';
import type { Minor } from '../../money/amounts';
import type { UsEmployer } from './facts';
import { BACKUP } from './federal/backup-withholding';
import { federalDeposits } from './federal/deposits';
import { FEDERAL_LIABILITY } from './federal/liability';
import { incomeCode, localCode, programmesByPayee, reportCode } from './forms/state-reports';
import { isLegalHoliday, nextBusinessDay } from './holidays';
import { STATES } from './states';
import type { State } from './states/state';

/** Federal unemployment tax of up to so much is carried to the next quarter (26 CFR 31.6302(c)-3(a)(2)). */
const CARRIED: Minor = 50_000;

/** Federal unemployment tax: by the end of the month after a quarter in which more than 500 has come together; the rest with the year's last. */
export function unemploymentDeposits(liabilities: readonly Liability[]): DuePayment[] {
  const byQuarter = new Map<string, Minor>();
  for (const { payDate, amount } of liabilities) {
    const end = lastOfMonth(yearOf(payDate), quarterOf(payDate) * 3);
    byQuarter.set(end, (byQuarter.get(end) ?? 0) + amount);
  }
  const made: DuePayment[] = [];
  let carried = 0;
  for (const [end, amount] of [...byQuarter].sort(([a], [b]) => (a < b ? -1 : 1))) {
    carried += amount;
    const yearEnds = monthOf(end) === 12;
    if (carried <= CARRIED && !yearEnds) continue;
    const after = addMonths(dateOf(yearOf(end), monthOf(end), 1), 1);
    const date = nextBusinessDay(lastOfMonth(yearOf(after), monthOf(after)));
    if (carried) made.push({ date, what: 'Federal unemployment deposit', amount: carried, upTo: end });
    carried = 0;
  }
  return made;
}

/** What an employer owes by law, out of its registrations: to the United States, and to the states where it is registered. */
export function moneyOwed(employer: Partial<UsEmployer>): Owed[] {
  const reference = employer.federalNumber ?? '';
  const depositor = employer.depositor ?? 'monthly';
  return [
    {
      code: 'us.deposit',
      what: 'Federal deposit',
      payee: 'United States Treasury',
      codes: FEDERAL_LIABILITY,
      filing: employer.federalReturn ?? '941',
      reference,
      rule: depositor === 'monthly' ? 'on the 15th of the following month' : 'three business days after Tuesday and after Friday',
      source: { publication: '26 CFR 31.6302-1', section: 'Monthly and semi-weekly depositors, next-day rule' },
      due: (liabilities) => federalDeposits(liabilities, depositor),
      // What a monthly depositor owed last year can have made it a semi-weekly one.
      since: (from) => (depositor === 'monthly' ? dateOf(yearOf(from) - 1, 1, 1) : addMonths(from, -2)),
    },
    {
      code: 'us.unemployment-deposit',
      what: 'Federal unemployment deposit',
      payee: 'United States Treasury',
      codes: ['us.futa'],
      filing: '940',
      reference,
      rule: 'on the last day of the month after a quarter in which more than 500 has come together',
      source: { publication: '26 CFR 31.6302(c)-3' },
      due: unemploymentDeposits,
      since: (from: IsoDate) => dateOf(yearOf(addMonths(from, -1)), 1, 1),
    },
    {
      code: 'us.backup-deposit',
      what: 'Backup withholding deposit',
      payee: 'United States Treasury',
      codes: [BACKUP],
      filing: '945',
      reference,
      rule: depositor === 'monthly' ? 'on the 15th of the following month' : 'three business days after Tuesday and after Friday',
      source: { publication: '26 CFR 31.6302-4', section: 'Nonpayroll withheld taxes, deposited apart from employment taxes' },
      due: (liabilities) => federalDeposits(liabilities, depositor),
      since: (from) => addMonths(from, -2),
    },
    ...STATES.filter(({ code }) => employer.states?.[code]).flatMap((state) => owedToState(state, employer)),
  ];
}

const QUARTERLY: DueRule = { by: 'quarter', day: 31 };
const QUARTERLY_SOURCE = {
  publication: "The state's quarterly wage report",
  section: 'Due on the last day of the month after the quarter',
  unconfirmed: true,
} as const;
const LOCAL_SOURCE = { publication: '53 Pa.C.S. 6924.512(4)', section: 'Within thirty days after the quarter', unconfirmed: true } as const;

const byRule = (rule: DueRule, what: string): Pick<Owed, 'due' | 'since' | 'rule'> => ({
  due: dueBy(rule, what, isLegalHoliday),
  since: (from) => sinceBy(rule, from),
  rule: ruleInWords(rule),
});

/** Deposits of a state's income tax by the schedule registered, or the state's first. */
function depositsOf({ name, deposits }: State, schedule: string | undefined): Partial<Owed> {
  const chosen = deposits?.find((one) => one.schedule === schedule) ?? deposits?.[0];
  if (!chosen) return {};
  const what = `${name} income tax`;
  if (chosen.rule !== 'as-federal') return { ...byRule(chosen.rule, what), source: chosen.source };
  return {
    // The state's own amounts never reach what the federal next-day rule is about.
    due: (liabilities) => federalDeposits(liabilities, 'semiweekly').map((payment) => ({ ...payment, what })),
    since: (from) => addMonths(from, -2),
    rule: 'three business days after Tuesday and after Friday, as federal deposits',
    source: chosen.source,
  };
}

/** By which number an agency of the state knows the employer. */
function owedToState(state: State, employer: Partial<UsEmployer>): Owed[] {
  const { agencies, place } = state;
  const registered = employer.states?.[state.code];
  return [
    ...(state.incomeTax && agencies.incomeTax
      ? [
          {
            code: atPlace('us.state-income-deposit', place),
            what: `${state.name} income tax`,
            payee: agencies.incomeTax,
            codes: [atPlace('us.state-income', place)],
            filing: incomeCode(state),
            place,
            reference: registered?.incomeTaxAccount ?? '',
            ...depositsOf(state, registered?.depositSchedule),
          },
        ]
      : []),
    ...programmesByPayee(state).map(([payee, programmes], index) => ({
      code: atPlace(`us.programmes-${index + 1}`, place),
      what: `${state.name} contributions`,
      payee,
      codes: programmes.map(({ code }) => atPlace(code, place)),
      filing: reportCode(state, index),
      place,
      // Other agencies of the state know an employer by its federal number.
      reference: payee === agencies.programmes ? (registered?.unemploymentAccount ?? '') : (employer.federalNumber ?? ''),
      ...byRule(state.programmesDue?.rule ?? QUARTERLY, `${state.name} contributions`),
      source: state.programmesDue?.source ?? QUARTERLY_SOURCE,
    })),
    ...(state.localPlaces?.(employer) ?? []).map(({ place: local, name, payee }) => ({
      code: atPlace('us.local-deposit', local),
      what: `Local taxes, ${name}`,
      payee,
      codes: [atPlace('us.local-income', local), atPlace('us.local-services', local)],
      filing: localCode(local),
      place: local,
      reference: employer.federalNumber ?? '',
      ...byRule({ by: 'quarter', day: 30 }, `Local taxes, ${name}`),
      source: LOCAL_SOURCE,
    })),
  ];
}
