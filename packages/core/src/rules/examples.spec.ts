import { decimalOf } from '../money/amounts';
import { computePayslip } from '../payslip/compute-payslip';
import { inputOf, type Sketch } from '../payslip/testing/inputs';
import methods from '../pay-items/examples/methods.json';
import federal from './US/examples/federal.json';
import orders from './US/examples/orders.json';
import moreStates from './US/examples/more-states.json';
import states from './US/examples/states.json';
import auLeaving from './AU/examples/leaving.json';
import auPay from './AU/examples/pay-and-super.json';
import auWithholding from './AU/examples/withholding.json';
import ukContributions from './GB/examples/national-insurance.json';
import uk from './GB/examples/paye.json';
import ukOrders from './GB/examples/orders.json';
import ukCodes from './GB/examples/tax-codes.json';
import ukTreatments from './GB/examples/treatments.json';

interface Example {
  name: string;
  source: string;
  sketch: Sketch;
  expect: Record<string, string>;
}

for (const file of [
  methods,
  federal,
  states,
  moreStates,
  orders,
  uk,
  ukCodes,
  ukTreatments,
  ukContributions,
  ukOrders,
  auWithholding,
  auPay,
  auLeaving,
]) {
  describe(`Examples: ${file.title}`, () => {
    for (const example of file.examples as unknown as Example[]) {
      it(`${example.name} [${example.source}]`, () => {
        const payslip = computePayslip(inputOf(example.sketch), { workings: true });
        expect(payslip.problems.filter((problem) => problem.weight === 'stop')).toEqual([]);
        for (const [code, amount] of Object.entries(example.expect)) {
          const sum = payslip.lines.filter((line) => line.code === code).reduce((all, line) => all + line.amount, 0);
          expect(`${code} ${decimalOf(sum)}`).toBe(`${code} ${amount}`);
        }
      });
    }
  });
}
