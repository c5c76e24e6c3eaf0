import { randomBytes } from 'node:crypto';
import { payItemSchema, personFactsSchema, rateSchema } from '@woodruff/contract';
import type { PayPeriod } from '@woodruff/core';
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

const MONTH = { from: '2026-11-01', to: '2026-11-30', payDate: '2026-11-30' };

/** A small British employer that pays by the month: two people, their tax details and numbers. */
export async function britishWorks({ hired = MONTH.from, country = {}, weekly = false } = {}): Promise<{
  scope: () => Promise<Scope>;
  run: (month?: PayPeriod) => Promise<string>;
  people: [string, string];
}> {
  const reference = `123/T${randomBytes(3).toString('hex').toUpperCase()}`;
  const facts: EmployerFacts = {
    ...EMPLOYER_FACTS,
    country: { payeReference: reference, accountsOffice: '123PA00012345', ...country },
    worksites: [],
    address: { line1: '2 Tide Lane', line2: '', city: 'Aberquill', state: '', postcode: 'SA1 1AA' },
    contact: { name: 'A. Signatory', email: 'a@example.test', phone: '01792 555010' },
  };
  const { id, schedules } = await addEmployer(testDatabase(), {
    name: `Test works ${randomBytes(3).toString('hex')}`,
    country: 'GB',
    today: '2026-11-25',
    demo: true,
    facts,
    schedules: [
      weekly
        ? { name: 'Weekly', frequency: 'weekly', anchor: '2026-11-02', payDateOffset: 5, move: 'previous' }
        : { name: 'Monthly', frequency: 'monthly', anchor: '2026-04-01', payDateOffset: 0, move: 'previous' },
    ],
  });
  const user = await addUser(`administrator-${id}@example.test`, 'The administrator', 'glasshouse-26', { [id]: 'administrator' });
  const scope = () => scopeOf(testDatabase(), user, id);
  const clerk = await scope();
  await addPayItem(
    clerk,
    payItemSchema.parse({ code: 'salary', name: 'Basic pay', kind: 'earning', treatment: 'pay', method: { by: 'salary' }, order: 10 }),
  );
  const person = async (code: string, name: [string, string], amount: string, number: string, tax: Record<string, unknown>) => {
    const [givenName, familyName] = name;
    const entered = { code, givenName, familyName, born: '1988-03-04', hired, scheduleId: Object.values(schedules)[0] ?? '' };
    const { id: made } = await addPerson(clerk, personFactsSchema.parse(entered));
    await addRate(clerk, made, rateSchema.parse({ label: 'Pay', per: 'year', amount, from: hired }));
    await addTaxDetails(clerk, made, { from: hired, facts: { taxCode: '1257L', basis: 'cumulative', category: 'A', ...tax } });
    await setNationalNumber(clerk, made, number);
    return made;
  };
  const people: [string, string] = [
    await person('1', ['Rhian', 'Carrow'], '36000', 'AB 12 34 56 C', { gender: 'F', hoursBand: 'D', starterDeclaration: 'B' }),
    await person('2', ['Ewan', 'Strath'], '48000', 'CE 23 45 67 A', { taxCode: 'S1257L', studentLoan: '4', gender: 'M' }),
  ];
  return {
    scope,
    people,
    run: async (month = MONTH) => {
      const run = await startRun(await scope(), { scheduleId: Object.values(schedules)[0] ?? '', ...month });
      await calculateRun(await scope(), run.id);
      return run.id;
    },
  };
}
