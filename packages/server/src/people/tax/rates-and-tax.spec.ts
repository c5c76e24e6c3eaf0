import { personItemSchema, rateSchema } from '@woodruff/contract';
import { select } from '../../database/connection';
import { approveRun } from '../../pay-runs/posting/approval';
import { openRun } from '../../calculation/calculation';
import { acceptPoint } from '../../pay-runs/sheet/edits';
import { rehearse } from '../../calculation/rehearsal';
import { openPoints } from '../../pay-runs/sheet/points';
import { runView } from '../../pay-runs/sheet/sheet';
import { PENNSYLVANIA, Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { addRate, correctRate, withdrawRate } from '../employment/rates';
import { addPersonItem } from '../employment/recurring-items';
import { personPage } from '../service';
import { correctTaxDetails } from './tax-details';
import { taxPreview } from './tax-preview';
import { refusal } from '../../testing/refusal';

const rate = (amount: string, from: string, more: object = {}) => rateSchema.parse({ label: 'Pay', per: 'hour', amount, from, ...more });

describe('A rate of pay', () => {
  let place: Workplace;
  let scope: Scope;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  }, 60_000);
  const rates = async () => (await personPage(scope, place.people.hourly)).rates.map((entry) => `${entry.amount} from ${entry.from}`);

  it('from a date on leaves the earlier one in the history; its effect on the open run is known first', async () => {
    await place.run();
    const effect = await rehearse(
      scope,
      (inside) => addRate(inside, place.people.hourly, rate('26.00', '2026-11-08')),
      place.people.hourly,
    );
    expect(effect.people.map((person) => [person.name, person.after > person.before])).toEqual([['Hana Hourly', true]]);
    expect([effect.unchanged, await rates()]).toEqual([0, ['25.00 from 2026-01-01']]);
    await addRate(scope, place.people.hourly, rate('26.00', '2026-11-08'));
    expect(await rates()).toEqual(['26.00 from 2026-11-08', '25.00 from 2026-01-01']);
  });

  it('that was wrong from its first day is corrected, and what was paid with it stays as it was paid', async () => {
    const run = await place.run();
    for (const point of await openPoints(scope, await openRun(scope, run))) await acceptPoint(scope, run, point.key, 'looked at');
    await approveRun(await place.scope('approver'), run, (await runView(scope, run)).version, 'once');
    const before = (await personPage(scope, place.people.hourly)).payslips[0]?.gross;
    const [entry] = (await personPage(scope, place.people.hourly)).rates;
    await correctRate(scope, place.people.hourly, entry!.id, rate('24.00', '2026-01-01'));
    const page = await personPage(scope, place.people.hourly);
    expect([page.rates[0]?.amount, page.payslips[0]?.gross]).toEqual(['24.00', before]);
    expect(page.changes[0]?.what).toContain('1 paid payslips stay as they were paid');
    expect(await refusal(withdrawRate(scope, place.people.hourly, entry!.id))).toContain('One payslip was paid with this rate');
  });

  it('that is still to come can be withdrawn; no rate is zero, nor from one day twice', async () => {
    const { id } = await addRate(scope, place.people.hourly, rate('27.00', '2027-01-03'));
    expect(await refusal(addRate(scope, place.people.hourly, rate('28.00', '2027-01-03')))).toContain('already a rate from 3 Jan 2027');
    expect(await refusal(correctRate(scope, place.people.hourly, id, rate('0', '2027-01-03')))).toContain('more than zero');
    expect(await refusal(withdrawRate(scope, place.people.salaried, id))).toContain('no such rate');
    await withdrawRate(scope, place.people.hourly, id);
    expect(await rates()).toEqual(['25.00 from 2026-01-01']);
  });
});

describe('Tax details while they are entered', () => {
  it('show what they take from the latest payslip, each tax with its working; nothing is saved', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    await place.run();
    const facts = { ...PENNSYLVANIA, federal: { ...PENNSYLVANIA.federal, extra: '25' } };
    const preview = await taxPreview(scope, place.people.hourly, { facts });
    const federal = preview.taxes.find((tax) => tax.code === 'us.fit')!;
    expect(federal.after - federal.before).toBe(2500);
    expect(preview.net.before - preview.net.after).toBe(2500);
    expect(preview.workings['us.fit']?.steps.length).toBeGreaterThan(2);
    expect(preview.based).toBe('The payslip of 27 Nov 2026');
    // A state registered since that payslip counts at once.
    const moved = { federal: facts.federal, residentState: 'WA', workState: 'WA' };
    expect((await taxPreview(scope, place.people.hourly, { facts: moved })).stop).toContain('no unemployment rate for Washington');
    const { country } = scope.employer.facts;
    scope.employer.facts.country = { ...country, states: { ...(country['states'] as object), WA: { unemploymentRate: '1.1' } } };
    expect((await taxPreview(scope, place.people.hourly, { facts: moved })).stop ?? '').not.toContain('no unemployment rate');
    expect((await personPage(scope, place.people.hourly)).taxDetails.length).toBe(1);
    expect((await taxPreview(scope, place.people.hourly, { facts: { ...facts, residentState: 'ZZ' } })).stop).toContain(
      'a state with rules',
    );
  });

  it('before the first payslip, take the salary or the standard hours of the period', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const preview = await taxPreview(scope, place.people.hourly, { facts: PENNSYLVANIA });
    expect([preview.gross, preview.based]).toEqual([200_000, 'The period 22 Nov – 5 Dec 2026, with salary or standard hours']);
  });

  it('that were wrong from their first day are corrected in place', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const [details] = (await personPage(scope, place.people.hourly)).taxDetails;
    await correctTaxDetails(scope, place.people.hourly, details!.id, {
      from: '2026-02-01',
      facts: { ...PENNSYLVANIA, workState: 'PA', residentState: 'VA' },
    });
    const page = await personPage(scope, place.people.hourly);
    expect(page.taxDetails.map((entry) => [entry.from, entry.facts['residentState']])).toEqual([['2026-02-01', 'VA']]);
    expect(await refusal(correctTaxDetails(scope, place.people.hourly, details!.id, { from: '2026-02-01', facts: {} }))).toContain(
      'not complete',
    );
  });
});

describe('A court order', () => {
  it('keeps its facts, and takes its fee as a line of its own', async () => {
    const place = await Workplace.make();
    const scope = await place.scope('administrator');
    const { takeReadyItems, listPayItems } = await import('../../pay-items/service');
    await takeReadyItems(scope, { codes: ['child-support'] });
    const itemId = (await listPayItems(scope)).find((item) => item.code === 'child-support')!.id;
    const orderFacts = { reference: 'FS-1', supportsOthers: true, fee: '2.00' };
    await addPersonItem(scope, place.people.hourly, personItemSchema.parse({ itemId, amount: '300.00', from: '2026-01-01', orderFacts }));
    const run = await place.run();
    const [row] = await select<{ lines: { code: string; amount: number }[] }>(
      scope.database,
      'select x.lines from payslip_results x join payslips y on y.id = x.payslip_id where y.run_id = :run and y.person_id = :person',
      { run, person: place.people.hourly },
    );
    expect(row?.lines.filter((line) => line.code.includes('child-support')).map((line) => [line.code, line.amount])).toEqual([
      ['child-support', 30000],
      ['fee:child-support', 200],
    ]);
  });
});
