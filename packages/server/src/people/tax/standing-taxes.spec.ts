import { standingTaxSchema } from '@woodruff/contract';
import { payslipView } from '../../pay-runs/sheet/payslips';
import { sheetOf } from '../../pay-runs/sheet/sheet';
import { refusal } from '../../testing/refusal';
import { Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { addRate } from '../employment/rates';
import { addStandingTax, changeStandingTax, standingTaxes } from './standing-taxes';

describe('Exemptions, and taxes fixed by a letter', () => {
  let place: Workplace;
  let scope: Scope;
  const entry = (more: object = {}) =>
    standingTaxSchema.parse({ tax: 'us.fit', instead: 'exempt', reason: 'treaty, letter of 2 May', from: '2026-05-02', ...more });
  const taxOf = async (code: string) => {
    const run = await place.run();
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.salaried);
    const payslip = await payslipView(scope, row?.payslipId ?? '');
    return { amount: payslip.lines.find((line) => line.code === code)?.amount ?? 0, working: payslip.workings[code] };
  };

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  });

  it('count on the payslip while they are in force, with the reason in the working', async () => {
    const { id } = await addStandingTax(scope, place.people.salaried, entry());
    const { amount, working } = await taxOf('us.fit');
    expect(amount).toBe(0);
    expect(working?.notes?.join(' ')).toContain('Reason: treaty, letter of 2 May');
    await changeStandingTax(scope, place.people.salaried, id, entry({ to: '2026-11-26' }));
    expect((await standingTaxes(scope, place.people.salaried)).entries[0]?.to).toBe('2026-11-26');
  });

  it('an ended one counts no more on a later pay date', async () => {
    await addStandingTax(scope, place.people.salaried, entry({ to: '2026-11-26' }));
    expect((await taxOf('us.fit')).amount).toBeGreaterThan(0);
  });

  it('offer the taxes of this person, and those of the employer that an exemption can reach', async () => {
    const { taxes } = await standingTaxes(scope, place.people.salaried);
    const codes = taxes.map((tax) => tax.code);
    expect(codes).toContain('us.local-income@US-PA/990101');
    expect(codes).toContain('us.futa');
    expect(codes).not.toContain('us.oasdi.employer');
  });

  it('refuse an overlap, a tax that the person has not, a value for an exemption and an end before the beginning', async () => {
    await addStandingTax(scope, place.people.salaried, entry());
    expect(await refusal(addStandingTax(scope, place.people.salaried, entry({ from: '2026-08-01' })))).toContain('from 2 May 2026 already');
    expect(await refusal(addStandingTax(scope, place.people.salaried, entry({ tax: 'us.state-income@US-VA' })))).toContain('no such tax');
    expect(standingTaxSchema.safeParse({ ...entry(), value: '10' }).success).toBeFalse();
    expect(standingTaxSchema.safeParse({ ...entry(), instead: 'amount' }).success).toBeFalse();
    expect(standingTaxSchema.safeParse({ ...entry(), to: '2026-01-01' }).success).toBeFalse();
  });
});

describe('Rates beside the primary one', () => {
  it('go on under the same name and begin a new series under another', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const rate = (label: string, from: string) => ({ label, per: 'hour' as const, amount: '20.00', from, primary: false, reason: '' });
    await addRate(scope, place.people.hourly, rate('Store', '2026-01-01'));
    await addRate(scope, place.people.hourly, rate('Van', '2026-01-01'));
    await addRate(scope, place.people.hourly, rate('store', '2026-06-01'));
    const run = await place.run();
    const sheet = await sheetOf(scope, run);
    expect(sheet.rows.find((row) => row.personId === place.people.hourly)?.rates).toEqual(['2', '3']);
    expect(sheet.hourColumns.map((column) => column.key)).toEqual(['ordinary', 'ordinary@2', 'ordinary@3', 'overtime']);
  });
});
