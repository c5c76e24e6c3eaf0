import type { BodyOf } from '@woodruff/contract';
import { draftOf, itemOf, methodsFor } from './item-draft';

type Item = BodyOf<'addPayItem'>;
const item = (more: Partial<Item>): Item => ({
  code: 'x',
  name: 'X',
  kind: 'deduction',
  treatment: 'after-tax',
  method: { by: 'amount' },
  order: 300,
  shortfall: 'take-part',
  ...more,
});

describe('The form of a pay item', () => {
  const items: Item[] = [
    item({}),
    item({ method: { by: 'percent', of: 'disposable' } }),
    item({ method: { by: 'percent', of: { items: ['ordinary', 'overtime'] } } }),
    item({ method: { by: 'per-hour' } }),
    item({ method: { by: 'per-hour', items: ['ordinary'] } }),
    item({
      method: {
        by: 'table',
        over: 'gross',
        rows: [
          { from: '0', amount: '5' },
          { from: '1000', amount: '8.50' },
        ],
      },
    }),
    item({ limits: { perMonth: '100.00', inAll: '2000' }, shortfall: 'carry-forward' }),
    item({ when: { paysOfMonth: [1, 'last'], months: [1, 12], every: { pays: 4, first: 2 }, regularRunsOnly: true } }),
    item({ goes: { payee: 'County office', reference: 'FS-21', liabilityAccount: '2230' } }),
    item({ countsInstead: { 'us.oasdi.pay': 0 } }),
  ];
  const contribution = { kind: 'employer-contribution' as const, treatment: 'employer-plan' };
  const { shortfall: _none, ...paidByEmployer } = item(contribution);
  const matches: Item['method'][] = [
    {
      by: 'match',
      of: 'deferral',
      tiers: [
        { upTo: '3', match: '100' },
        { upTo: '5', match: '50' },
      ],
    },
    { by: 'match', of: 'deferral', on: { items: ['salary'] }, tiers: [{ upTo: '3', match: '100' }] },
    { by: 'match', of: 'deferral', tiers: [{ upToAmount: '75', match: '50' }] },
  ];

  it('gives back what it was given, whatever the method, limits, schedule and destination', () => {
    for (const given of [...items, ...matches.map((method) => ({ ...paidByEmployer, method }))])
      expect(itemOf(draftOf(given))).toEqual(given);
  });

  it('leaves nothing off the payslip that net pay is made of', () => {
    expect(itemOf(draftOf({ ...paidByEmployer, goes: { hidden: true } })).goes).toEqual({ hidden: true });
    expect(itemOf(draftOf(item({ goes: { hidden: true } }))).goes).toBeUndefined();
  });

  it('leaves out rows and parts that are empty', () => {
    const draft = draftOf(item({ method: { by: 'table', over: 'age', rows: [{ from: '0', amount: '5' }] } }));
    draft.rows.push({ from: ' ', value: '' });
    draft.payee = '  ';
    expect(itemOf(draft)).toEqual(item({ method: { by: 'table', over: 'age', rows: [{ from: '0', amount: '5' }] } }));
  });

  it('keeps what was entered for one method while another is looked at', () => {
    const draft = draftOf(item({ method: { by: 'percent', of: 'net' } }));
    draft.by = 'amount';
    draft.by = 'percent';
    expect(itemOf(draft).method).toEqual({ by: 'percent', of: 'net' });
  });

  it('offers each kind the methods that fit it', () => {
    expect(methodsFor('earning').map((method) => method.by)).not.toContain('match');
    expect(methodsFor('employer-contribution').map((method) => method.by)).toContain('match');
    expect(methodsFor('reimbursement').map((method) => method.by)).toEqual(['amount']);
  });
});
