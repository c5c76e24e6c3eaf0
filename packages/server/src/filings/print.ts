import type { Copy } from '@woodruff/contract';
import { decimalOf, written, writtenDay } from '@woodruff/core';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../documents/sheet';
import { notFound } from '../errors';
import { csvOf } from '../files/write';
import { packFor, type Scope } from '../scope';
import { contentOf, type Content } from './events';
import { filingOf, madeNow } from './make';

/** A filing on plain pages of our own: as it is now, or as it was prepared in an attempt. */
export async function filingPdf(scope: Scope, code: string, key: string, attempt: number | undefined): Promise<Buffer> {
  const found = filingOf(scope, code, key);
  const { filing, period } = found;
  const made = attempt === undefined ? await madeNow(scope, found) : await contentOf(scope, code, key, attempt);
  if (!made) throw notFound('filing');
  const title = `${filing.copies?.totals ?? filing.form}, ${period.label}`;
  const sheet = new Sheet(title, packFor(scope).paper).page();
  sheet.title(title, attempt === undefined ? 'Working copy, not for filing' : `As prepared, attempt ${attempt}`);
  sheet.text(`${filing.name}. ${made.employer.name}, employer number ${made.employer.number}. Due ${writtenDay(period.due)}.`, {
    color: SECOND_INK,
  });
  linesOn(sheet, made);
  if (made.byDay) daysOn(sheet, made.byDay);
  if (made.detail) detailOn(sheet, made.detail);
  sheet.heading('Checks');
  for (const check of made.checks) sheet.text(`${check.holds ? 'Holds' : 'Does not hold'}: ${check.sentence}`);
  sheet.text(made.source, { color: SECOND_INK, size: 8 });
  return sheet.finish(made.employer.name);
}

function linesOn(sheet: Sheet, { lines }: Content): void {
  sheet.heading('Lines');
  for (const line of lines) {
    sheet.row(
      [
        { text: line.line, at: LEFT, width: 70 },
        { text: line.label, at: LEFT + 72, width: 320 },
        { text: line.unit === 'money' ? written(line.amount) : String(line.amount), at: RIGHT, right: true, width: 110 },
      ],
      line.sum ? 'bold' : 'text',
    );
    sheet.small([{ text: line.working, at: LEFT + 72, width: 400 }]);
    if (line.replaced) {
      const { amount, reason } = line.replaced;
      sheet.small([{ text: `In place of ${line.unit === 'money' ? written(amount) : amount}: ${reason}`, at: LEFT + 72, width: 400 }]);
    }
  }
}

function daysOn(sheet: Sheet, { title, days }: NonNullable<Content['byDay']>): void {
  sheet.heading(title);
  for (const { date, amount } of days)
    sheet.row([
      { text: writtenDay(date), at: LEFT },
      { text: written(amount), at: RIGHT, right: true, width: 110 },
    ]);
  sheet.rule('#1E2730').row(
    [
      { text: 'Sum', at: LEFT },
      { text: written(days.reduce((sum, day) => sum + day.amount, 0)), at: RIGHT, right: true, width: 110 },
    ],
    'bold',
  );
}

function detailOn(sheet: Sheet, { title, columns, rows }: NonNullable<Content['detail']>): void {
  sheet.heading(title);
  const at = (index: number): number => RIGHT - (columns.length - 1 - index) * 100;
  const figures = (values: readonly string[]) => values.map((text, index) => ({ text, at: at(index), right: true, width: 96 }));
  sheet.row([{ text: 'Person', at: LEFT }, ...figures(columns.map(({ label }) => label))], 'bold');
  for (const { name, values } of rows)
    sheet.row([
      { text: name, at: LEFT, width: 240 },
      ...figures(values.map((value, index) => (columns[index]?.unit === 'money' ? written(value) : String(value)))),
    ]);
}

/** People's boxes, a row each; of a filing without copies its lines. */
export async function filingCsv(scope: Scope, code: string, key: string): Promise<string> {
  const found = filingOf(scope, code, key);
  const { lines, copies, detail } = await madeNow(scope, found);
  if (!found.filing.copies)
    return csvOf([
      ['Line', 'Label', 'Amount', 'Working'],
      ...lines.map(({ line, label, amount, unit, working, replaced }) => [
        line,
        label,
        unit === 'money' ? decimalOf(amount) : amount,
        replaced
          ? `${working} In place of ${unit === 'money' ? decimalOf(replaced.amount) : replaced.amount}: ${replaced.reason}`
          : working,
      ]),
      ...(detail
        ? [
            ['Person', ...detail.columns.map(({ label }) => label)],
            ...detail.rows.map(({ name, values }) => [
              name,
              ...values.map((value, index) => (detail.columns[index]?.unit === 'money' ? decimalOf(value) : value)),
            ]),
          ]
        : []),
    ]);
  const boxes = [...new Map(copies.flatMap((copy) => copy.boxes.map(({ box, label }) => [box, label] as const))).keys()];
  const amountOf = (copy: Copy, box: string) => copy.boxes.find((one) => one.box === box)?.amount ?? 0;
  return csvOf([
    ['Name', 'Number', ...boxes.map((box) => `Box ${box}`), 'Open checks'],
    ...copies.map((copy) => [copy.name, copy.number ?? '', ...boxes.map((box) => decimalOf(amountOf(copy, box))), copy.checks.length]),
  ]);
}
