import fc from 'fast-check';
import { decimalOf } from '../money/amounts';
import { splitNet, type DepositShare } from './deposits';

const shares: DepositShare[] = [
  { id: 'savings', by: 'amount', value: '200.00' },
  { id: 'joint', by: 'percent', value: '25' },
  { id: 'own', by: 'remainder' },
];
const amounts = (net: number) => splitNet(net, shares).map(({ amount }) => amount);

describe('Net pay over several accounts', () => {
  it('amounts and per cents of the whole net first, the remainder to the one that takes it', () => {
    expect(amounts(212_505)).toEqual([20_000, 53_126, 139_379]);
  });

  it('an amount that pay does not cover takes what there is; nobody gets less than nothing', () => {
    expect(amounts(15_000)).toEqual([15_000, 0, 0]);
    expect(amounts(22_000)).toEqual([20_000, 2_000, 0]);
    expect(amounts(0)).toEqual([0, 0, 0]);
  });

  it('wherever the remainder stands in the list, all of it adds up to the net', () => {
    const one = fc.oneof(
      fc.integer({ min: 0, max: 200_000 }).map((value): Omit<DepositShare, 'id'> => ({ by: 'amount', value: decimalOf(value) })),
      fc.integer({ min: 0, max: 10_000 }).map((value): Omit<DepositShare, 'id'> => ({ by: 'percent', value: decimalOf(value) })),
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), fc.array(one, { maxLength: 5 }), fc.nat(5), (net, some, at) => {
        const all = some.map((share, index) => ({ ...share, id: `a${index}` }));
        all.splice(Math.min(at, all.length), 0, { id: 'rest', by: 'remainder' });
        const split = splitNet(net, all);
        expect(split.reduce((sum, { amount }) => sum + amount, 0)).toBe(net);
        expect(split.every(({ amount }) => amount >= 0)).toBeTrue();
        expect(split.map(({ id }) => id)).toEqual(all.map(({ id }) => id));
      }),
    );
  });
});
