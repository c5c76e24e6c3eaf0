import { asPosted } from './as-posted';
import { computePayslip } from './compute-payslip';
import { inputOf } from './testing/inputs';

describe('Workings of a posted payslip', () => {
  const { lines, workings } = computePayslip(inputOf({ pay: '2000.00' }), { workings: true });
  const tax = lines.find(({ kind }) => kind === 'tax')!;

  it('are those of the rules where they give what was posted', () => {
    expect(asPosted(lines, lines, workings)).toEqual(workings);
  });

  it('say what was posted and what the rules give now where the two differ', () => {
    const posted = lines.map((line) => (line.id === tax.id ? { ...line, amount: tax.amount - 150 } : line));
    const made = asPosted(posted, lines, workings);
    expect(made[tax.id]!.notes[0]).toContain('What was posted stands');
    expect(made[tax.id]!.steps).toEqual(workings[tax.id]!.steps);
    expect(Object.keys(made).filter((key) => made[key] !== workings[key])).toEqual([tax.id]);
  });

  it('show the posted amount alone where it can no longer be calculated', () => {
    const made = asPosted(lines, [], {});
    expect(made[tax.id]!.steps).toEqual([
      { operation: 'start', label: 'As posted', operand: (tax.amount / 100).toFixed(2), result: (tax.amount / 100).toFixed(2) },
    ]);
  });
});
