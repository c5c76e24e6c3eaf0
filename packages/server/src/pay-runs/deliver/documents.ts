import type { PayslipView } from '@woodruff/contract';
import { decimalOf, minorOf, written, writtenDay, writtenPeriod } from '@woodruff/core';
import { logoOf } from '../../employers/logo';
import { notFound } from '../../errors';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../../documents/sheet';
import { packFor, type Scope } from '../../scope';
import { MONEY_KINDS } from '../../calculation/result';
import { payslipsOfRun, payslipView, viewOf } from '../sheet/payslips';
import { runTitle, runView } from '../sheet/sheet';
import { csvOf, workbookOf } from '../../files/write';

const KINDS: [kind: string, heading: string][] = [
  ['earning', 'Earnings'],
  ['reimbursement', 'Reimbursements (not pay)'],
  ['benefit-in-kind', 'Benefits in kind (taxed, not paid)'],
  ['deduction-before-tax', 'Deductions before tax'],
  ['tax', 'Taxes'],
  ['deduction-after-tax', 'Deductions after tax'],
];

/** All payslips of a run in one file, or one payslip. */
export async function payslipsPdf(scope: Scope, which: { run: string } | { payslip: string }): Promise<Buffer> {
  const payslips =
    'run' in which ? (await payslipsOfRun(scope, which.run)).map((stored) => viewOf(stored)) : [await payslipView(scope, which.payslip)];
  if (!payslips.length) throw notFound('payslip');
  const sheet = new Sheet('Payslips', packFor(scope).paper);
  const logo = await logoOf(scope);
  for (const payslip of payslips) {
    sheet.page();
    if (logo) sheet.logo(logo.image);
    printPayslip(sheet, scope, payslip, !!logo);
  }
  return sheet.finish(scope.employer.name);
}

function printPayslip(sheet: Sheet, scope: Scope, payslip: PayslipView, besideLogo: boolean): void {
  const { address } = scope.employer.facts;
  const kind = payslip.state === 'reversal' ? 'Reversal' : payslip.state === 'draft' ? 'Draft, not approved' : 'Payslip';
  sheet.title(scope.employer.name, besideLogo ? '' : kind);
  sheet.text(packFor(scope).person.address.line(address), { color: SECOND_INK });
  if (payslip.printed?.length) sheet.text(payslip.printed.join('. '), { color: SECOND_INK });
  sheet.space(8);
  sheet.row(
    [
      { text: payslip.name, at: LEFT, width: 300 },
      { text: `${besideLogo ? `${kind}, paid` : 'Paid'} ${writtenDay(payslip.payDate)}`, at: RIGHT, right: true },
    ],
    'bold',
  );
  sheet.row([{ text: `For ${writtenPeriod(payslip.from, payslip.to)}`, at: LEFT, width: 300 }], 'text', SECOND_INK);
  sheet.space(4);
  sheet.row(
    [
      { text: 'Hours', at: 330, right: true, width: 60 },
      { text: 'Rate', at: 390, right: true, width: 60 },
      { text: 'This period', at: 474, right: true, width: 80 },
      { text: 'Year to date', at: RIGHT, right: true, width: 80 },
    ],
    'text',
    SECOND_INK,
  );
  for (const [kind, heading] of KINDS) {
    const lines = payslip.lines.filter((line) => line.kind === kind && !line.hidden);
    if (!lines.length) continue;
    sheet.heading(heading);
    for (const line of lines) {
      sheet.row([
        { text: line.label, at: LEFT, width: 210 },
        { text: line.quantity ?? '', at: 330, right: true, width: 60 },
        { text: line.rate ?? '', at: 390, right: true, width: 60 },
        { text: written(line.amount), at: 474, right: true, width: 80 },
        { text: written(line.yearToDate), at: RIGHT, right: true, width: 80 },
      ]);
    }
  }
  sheet.space(8);
  sheet.rule('#1E2730');
  const { totals } = payslip;
  sheet.row(
    [
      {
        text: `Gross ${written(totals.gross)} + reimbursements ${written(totals.reimbursements)} − deductions ${written(totals.deductions)} − taxes ${written(totals.taxes)}`,
        at: LEFT,
        width: 420,
      },
    ],
    'text',
    SECOND_INK,
  );
  sheet.row(
    [
      { text: 'Net pay', at: LEFT },
      { text: written(totals.net), at: 474, right: true, width: 120 },
    ],
    'bold',
  );
  if (payslip.edits.note) sheet.text(payslip.edits.note, { color: SECOND_INK });
  const employer = payslip.lines.filter((line) => (line.kind === 'employer-tax' || line.kind === 'employer-contribution') && !line.hidden);
  if (employer.length) sheet.heading('Paid by the employer in addition');
  for (const line of employer)
    sheet.row(
      [
        { text: line.label, at: LEFT, width: 260 },
        { text: written(line.amount), at: 474, right: true, width: 80 },
        { text: written(line.yearToDate), at: RIGHT, right: true, width: 80 },
      ],
      'text',
      SECOND_INK,
    );
  printLeave(sheet, payslip);
}

/** What is left of leave after this payslip. */
function printLeave(sheet: Sheet, { leave, lines }: PayslipView): void {
  if (!leave.length) return;
  sheet.heading('Leave, in hours');
  for (const { plan, figure, balance } of leave) {
    const moved = lines
      .filter((line) => line.code.startsWith(`${figure}:`))
      .map((line) => `${line.label.replace(`${plan}, `, '')} ${written(line.amount)}`);
    sheet.row(
      [
        { text: plan, at: LEFT, width: 180 },
        { text: moved.join(', '), at: 474, right: true, width: 250 },
        { text: `left ${written(balance)}`, at: RIGHT, right: true, width: 80 },
      ],
      'text',
      SECOND_INK,
    );
  }
}

interface Register {
  title: string;
  columns: string[];
  rows: (string | number)[][];
}

/** Columns before the figures: code, name, pay date, period. */
const TEXTS = 5;

/** One row per payslip; one column per code of line that occurs in the run, so that rows add up across. */
async function registerOf(scope: Scope, runId: string): Promise<Register> {
  const run = await runView(scope, runId);
  const payslips = (await payslipsOfRun(scope, runId)).map((stored) => ({ ...viewOf(stored), person: stored.code }));
  const codes = new Map<string, string>();
  for (const kind of MONEY_KINDS)
    for (const payslip of payslips)
      for (const line of payslip.lines)
        if (line.kind === kind && !codes.has(line.code)) codes.set(line.code, line.label.replace(/, .*$/, ''));
  const amounts = (payslip: PayslipView) =>
    [...codes.keys()].map((code) =>
      payslip.lines.reduce((sum, line) => (line.code === code && line.kind !== 'base' ? sum + line.amount : sum), 0),
    );
  const hours = (payslip: PayslipView) =>
    payslip.lines.reduce((sum, line) => sum + (line.quantity && line.rate ? minorOf(line.quantity) : 0), 0);
  return {
    title: runTitle(run),
    columns: [
      'Code',
      'Name',
      'Pay date',
      'Period from',
      'Period to',
      'Hours',
      'Gross',
      ...codes.values(),
      'Deductions',
      'Taxes',
      'Net',
      'Cost to employer',
    ],
    rows: payslips.map((payslip) => [
      payslip.person,
      payslip.name,
      payslip.payDate,
      payslip.from,
      payslip.to,
      ...[
        hours(payslip),
        payslip.totals.gross,
        ...amounts(payslip),
        payslip.totals.deductions,
        payslip.totals.taxes,
        payslip.totals.net,
        payslip.totals.employerCost,
      ].map(decimalOf),
    ]),
  };
}

export async function registerCsv(scope: Scope, runId: string): Promise<string> {
  const register = await registerOf(scope, runId);
  return csvOf([register.columns, ...register.rows]);
}

export async function registerXlsx(scope: Scope, runId: string): Promise<Buffer> {
  const register = await registerOf(scope, runId);
  return workbookOf({
    name: 'Register',
    frozen: { columns: 2, rows: 3 },
    bold: [1, 3],
    rows: [
      [`${scope.employer.name}: register, ${register.title}`],
      [],
      register.columns,
      ...register.rows.map((row) => row.map((value, index) => (index >= TEXTS ? Number(value) : value))),
    ],
    widths: register.columns.map((_column, index) => (index === 1 ? 28 : 14)),
    sums: { from: TEXTS, firstRow: 4 },
  });
}

export const fileName = (title: string, ending: string): string => `${title.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.${ending}`;
