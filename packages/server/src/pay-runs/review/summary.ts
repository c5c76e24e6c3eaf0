import type { Review } from '@woodruff/contract';
import { counted, written, writtenDay, writtenPeriod } from '@woodruff/core';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../../documents/sheet';
import { packFor, type Scope } from '../../scope';
import { reviewOf } from './review';
import { runView } from '../sheet/sheet';

const KINDS: Record<string, string> = {
  earning: 'Earnings',
  reimbursement: 'Reimbursements',
  'benefit-in-kind': 'Benefits in kind',
  'deduction-before-tax': 'Deductions before tax',
  tax: 'Taxes',
  'deduction-after-tax': 'Deductions after tax',
  'employer-tax': "Employer's taxes",
  'employer-contribution': "Employer's contributions",
};
const signed = (amount: number): string => (amount > 0 ? `+${written(amount)}` : amount === 0 ? '–' : written(amount));

/** A run on a page or two, for who does not sign in: its sums against the last run, money by date, and cost by department. */
export async function summaryPdf(scope: Scope, runId: string): Promise<Buffer> {
  const run = await runView(scope, runId);
  const review = await reviewOf(scope, runId);
  const sheet = new Sheet('Summary of a run', packFor(scope).paper).page();
  sheet.title(scope.employer.name, run.state === 'approved' ? 'Summary of a run' : 'Summary of a run, not approved');
  sheet.text(
    `${writtenPeriod(run.from, run.to)}, ${run.name || run.schedule}, paid ${writtenDay(run.payDate)}, ${counted(run.people, 'person', 'people')}`,
    { color: SECOND_INK },
  );
  sheet.heading('Totals');
  const sum = (label: string, amount: number) =>
    sheet.row([
      { text: label, at: LEFT, width: 300 },
      { text: written(amount), at: RIGHT, right: true, width: 120 },
    ]);
  const { totals } = run;
  sum('Gross pay', totals.gross);
  if (totals.reimbursements) sum('Reimbursements', totals.reimbursements);
  sum('Deductions', -totals.deductions);
  sum('Taxes', -totals.taxes);
  sheet.row(
    [
      { text: 'Net pay', at: LEFT },
      { text: written(totals.net), at: RIGHT, right: true, width: 120 },
    ],
    'bold',
  );
  sum('Total cost to the employer', totals.employerCost);
  printLines(sheet, review);
  sheet.heading('Funding needed');
  for (const { date, what, to, amount } of review.funding)
    sheet.row([
      { text: writtenDay(date), at: LEFT, width: 100 },
      { text: `${what}, ${to}`, at: LEFT + 110, width: 280 },
      { text: written(amount), at: RIGHT, right: true, width: 120 },
    ]);
  sheet.heading('Cost by department');
  for (const { department, people, cost, before } of review.departments)
    sheet.row([
      { text: `${department || 'None'}, ${counted(people, 'person', 'people')}`, at: LEFT, width: 260 },
      { text: written(cost), at: 470, right: true, width: 120 },
      { text: signed(cost - before), at: RIGHT, right: true, width: 80 },
    ]);
  return sheet.finish(scope.employer.name);
}

function printLines(sheet: Sheet, { lines, against }: Review): void {
  sheet.heading(against ? `Compared with the run paid ${writtenDay(against.payDate)}` : 'Every sum');
  sheet.row(
    [
      { text: 'People', at: 320, right: true, width: 50 },
      { text: against ? 'Before' : '', at: 400, right: true, width: 80 },
      { text: 'Now', at: 482, right: true, width: 80 },
      { text: against ? 'Change' : '', at: RIGHT, right: true, width: 74 },
    ],
    'text',
    SECOND_INK,
  );
  let kind = '';
  for (const line of lines) {
    if (line.kind !== kind) {
      kind = line.kind;
      sheet.row([{ text: KINDS[kind] ?? kind, at: LEFT }], 'bold');
    }
    sheet.row([
      { text: line.label, at: LEFT + 10, width: 220 },
      { text: String(line.people), at: 320, right: true, width: 50 },
      { text: against ? written(line.before) : '', at: 400, right: true, width: 80 },
      { text: written(line.amount), at: 482, right: true, width: 80 },
      { text: against ? signed(line.amount - line.before) : '', at: RIGHT, right: true, width: 74 },
    ]);
  }
}
