import { moveToday } from '../employers/service';
import { britishWorks } from '../testing/british-works';
import { approveAll } from '../testing/workplace';
import { agreeFiling, prepareFiling, sendFiling } from './life';
import { copiesPdf } from './copies-print';
import { copiesGiven, giveCopies } from './give';
import { viewOf } from './service';
import { yearPlan } from './year-plan';

const P60 = ['p60', '2026-27'] as const;

describe('Certificates of a tax year that is no calendar year', () => {
  it('are drafts until the year is over, final then, and given to whoever is employed on its last day', async () => {
    const works = await britishWorks();
    let scope = await works.scope();
    await approveAll(scope, await works.run());
    scope = await works.scope();
    const draft = await viewOf(scope, ...P60);
    expect([draft.complete, draft.copies.map(({ name }) => name)]).toEqual([false, ['Carrow, Rhian', 'Strath, Ewan']]);
    expect(draft.copies[0]?.boxes.slice(0, 2).map(({ box, amount }) => [box, amount])).toEqual([
      ['pay', 300_000],
      ['tax', draft.copies[0]?.boxes[1]?.amount ?? -1],
    ]);
    await moveToday(scope, '2027-04-10');
    scope = await works.scope();
    await prepareFiling(scope, ...P60, { reason: '' });
    await agreeFiling(scope, ...P60, { signer: 'A. Signatory', title: 'Owner' });
    await giveCopies(scope, ...P60, { how: 'paper', people: [] });
    expect((await copiesGiven(scope, ...P60)).people.every(({ given }) => given.length > 0)).toBeTrue();
    await sendFiling(scope, ...P60, { how: 'paper', reference: '' });
    expect((await viewOf(scope, ...P60)).state).toBe('accepted');
    expect((await copiesPdf(scope, ...P60, { attempt: 1 })).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('stand in the plan of the year with its own days', async () => {
    const works = await britishWorks();
    await approveAll(await works.scope(), await works.run());
    const plan = await yearPlan(await works.scope(), '2026-27');
    expect([plan.from, plan.to, plan.current]).toEqual(['2026-04-06', '2027-04-05', '2026-27']);
    expect(plan.filings.find(({ filing }) => filing === 'p60')?.due).toBe('2027-05-31');
    expect(plan.steps.some(({ what }) => what.includes('final submission'))).toBeTrue();
  });
});
