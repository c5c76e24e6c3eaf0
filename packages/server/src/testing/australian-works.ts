import { randomInt, randomBytes } from 'node:crypto';
import { payItemSchema, personFactsSchema, rateSchema } from '@woodruff/contract';
import { packOf, type PayPeriod } from '@woodruff/core';
import { calculateRun } from '../calculation/calculation';
import { addEmployer } from '../employers/service';
import { addPayItem } from '../pay-items/service';
import { startRun } from '../pay-runs/making/start';
import { addRate } from '../people/employment/rates';
import { addPerson, setNationalNumber } from '../people/service';
import { addTaxDetails } from '../people/tax/tax-details';
import { addUser, scopeOf } from '../users/service';
import type { EmployerFacts, Scope } from '../scope';
import { testDatabase } from './database';
import { EMPLOYER_FACTS } from './workplace';

const WEEK = { from: '2026-11-16', to: '2026-11-22', payDate: '2026-11-26' };

/** A business number that no other test has, with its check digits. */
function businessNumber(): string {
  const { employerSchema } = packOf('AU');
  for (;;) {
    const abn = `${randomInt(100_000, 999_999)}${randomInt(10_000, 99_999)}`;
    if (employerSchema.safeParse({ abn }).success) return abn;
  }
}

/** A small Australian employer that pays by the week: two people in two funds, their tax details and numbers. */
export async function australianWorks(): Promise<{
  scope: () => Promise<Scope>;
  run: (week?: PayPeriod) => Promise<string>;
  people: [string, string];
}> {
  const facts: EmployerFacts = {
    ...EMPLOYER_FACTS,
    country: {
      abn: businessNumber(),
      directEntryUser: '301500',
      defaultFund: 'QWS0100AU',
      states: { TAS: { payrollTaxNumber: 'T4417 220', groupWages: '5000000', premiumRate: '2' } },
      funds: {
        QWS0100AU: { name: 'Quoin and Wool Super', abn: '51824753556' },
        TRN0302AU: { name: 'Trellis Retirement Fund', abn: '51824753556' },
      },
    },
    worksites: [],
    address: { line1: '2 Slipway Road', line2: '', city: 'Port Tarrant', state: 'TAS', postcode: '7999' },
    contact: { name: 'A. Signatory', email: 'a@example.test', phone: '03 5550 0010' },
  };
  const { id, schedules } = await addEmployer(testDatabase(), {
    name: `Test works ${randomBytes(3).toString('hex')}`,
    country: 'AU',
    today: '2026-11-25',
    demo: true,
    facts,
    schedules: [{ name: 'Weekly', frequency: 'weekly', anchor: '2026-11-02', payDateOffset: 4, move: 'previous' }],
  });
  const user = await addUser(`administrator-${id}@example.test`, 'The administrator', 'glasshouse-26', { [id]: 'administrator' });
  const scope = () => scopeOf(testDatabase(), user, id);
  const clerk = await scope();
  const wanted = ['ordinary', 'redundancy', 'bonus', 'sacrifice-super'];
  for (const { item } of packOf('AU').readyItems(WEEK.payDate))
    if (wanted.includes(item.code)) await addPayItem(clerk, payItemSchema.parse(item));
  const person = async (code: string, name: [string, string], hired: string, number: string, tax: Record<string, unknown>) => {
    const [givenName, familyName] = name;
    const address = { line1: '5 Windlass Street', city: 'Port Tarrant', state: 'TAS', postcode: '7999' };
    const entered = {
      code,
      givenName,
      familyName,
      born: '1988-03-04',
      hired,
      address,
      standardHours: '38',
      scheduleId: Object.values(schedules)[0] ?? '',
    };
    const { id: made } = await addPerson(clerk, personFactsSchema.parse(entered));
    await addRate(clerk, made, rateSchema.parse({ label: 'Pay', per: 'hour', amount: '30.00', from: '2026-06-01' }));
    await addTaxDetails(clerk, made, { from: '2026-06-01', facts: { state: 'TAS', ...tax } });
    await setNationalNumber(clerk, made, number);
    return made;
  };
  const people: [string, string] = [
    await person('1', ['Fergus', 'Adeyemi'], '2019-05-06', '123 456 782', {}),
    await person('2', ['Bram', 'Nightingale'], '2024-02-05', '876 543 210', {
      fundChoice: 'chosen',
      fund: 'TRN0302AU',
      memberNumber: 'M1',
    }),
  ];
  return {
    scope,
    people,
    run: async (week = WEEK) => {
      const run = await startRun(await scope(), { scheduleId: Object.values(schedules)[0] ?? '', ...week });
      await calculateRun(await scope(), run.id);
      return run.id;
    },
  };
}
