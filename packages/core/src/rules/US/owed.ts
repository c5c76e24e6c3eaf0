import { addMonths, dateOf, lastOfMonth, monthOf, quarterOf, yearOf, type IsoDate } from '../../calendar/dates';
import type { DuePayment, Liability, Owed } from '../../filings/owed';
import { atPlace } from '../../ledger/codes';
import type { Minor } from '../../money/amounts';
import type { UsEmployer } from './facts';
import { federalDeposits } from './federal/deposits';
import { nextBusinessDay } from './holidays';
import { STATES } from './states';
import type { State } from './states/state';

/** Taxes deposited and reported together: withheld, and the employer's share. */
export const FEDERAL_LIABILITY = [
  'us.fit',
  'us.oasdi',
  'us.oasdi.employer',
  'us.medicare',
  'us.medicare.employer',
  'us.medicare.additional',
];

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
      filing: '941',
      reference,
      due: (liabilities) => federalDeposits(liabilities, depositor),
      // What a monthly depositor owed last year can have made it a semi-weekly one.
      since: (from) => (depositor === 'monthly' ? dateOf(yearOf(from) - 1, 1, 1) : addMonths(from, -2)),
    },
    {
      code: 'us.unemployment-deposit',
      what: 'Federal unemployment deposit',
      payee: 'United States Treasury',
      codes: ['us.futa'],
      reference,
      due: unemploymentDeposits,
      since: (from: IsoDate) => dateOf(yearOf(addMonths(from, -1)), 1, 1),
    },
    ...STATES.filter(({ code }) => employer.states?.[code]).flatMap((state) => owedToState(state, employer)),
  ];
}

/** By which number an agency of the state knows the employer. */
function owedToState(state: State, employer: Partial<UsEmployer>): Owed[] {
  const { agencies, place } = state;
  const registered = employer.states?.[state.code];
  const byPayee = new Map<string, string[]>();
  for (const programme of state.programmes) {
    const payee = programme.payee ?? agencies.programmes;
    byPayee.set(payee, [...(byPayee.get(payee) ?? []), atPlace(programme.code, place)]);
  }
  return [
    ...(state.incomeTax && agencies.incomeTax
      ? [
          {
            code: atPlace('us.state-income-deposit', place),
            what: `${state.name} income tax`,
            payee: agencies.incomeTax,
            codes: [atPlace('us.state-income', place)],
            place,
            reference: registered?.incomeTaxAccount ?? '',
          },
        ]
      : []),
    ...[...byPayee].map(([payee, codes], index) => ({
      code: atPlace(`us.programmes-${index + 1}`, place),
      what: `${state.name} contributions`,
      payee,
      codes,
      place,
      reference: payee === agencies.programmes ? (registered?.unemploymentAccount ?? '') : '',
    })),
    ...(state.localPlaces?.(employer) ?? []).map(({ place: local, name, payee }) => ({
      code: atPlace('us.local-deposit', local),
      what: `Local taxes, ${name}`,
      payee,
      codes: [atPlace('us.local-income', local), atPlace('us.local-services', local)],
      place: local,
      reference: '',
    })),
  ];
}
