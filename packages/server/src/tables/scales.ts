import type { AnswerOf, ParsedQueryOf } from '@woodruff/contract';
import {
  addDays,
  addMonths,
  computePayslip,
  counted,
  minorOf,
  PAY_DATES_PER_YEAR,
  PAYSLIP_INPUT_FORMAT,
  quarterOf,
  written,
  writtenDate,
  yearOf,
  type Balances,
  type Payslip,
  type PayslipInput,
} from '@woodruff/core';
import { select } from '../database/connection';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../documents/sheet';
import { invalid } from '../errors';
import { packFor, type Scope } from '../scope';

type Asked = Pick<ParsedQueryOf<'scale'>, 'date' | 'frequency' | 'details' | 'steady'>;

/** So many rows at most are printed. */
const AT_MOST_ROWS = 400;
const DAYS: Partial<Record<Asked['frequency'], number>> = { daily: 1, weekly: 7, fortnightly: 14, 'four-weekly': 28 };
const MONTHS: Partial<Record<Asked['frequency'], number>> = { monthly: 1, quarterly: 3, 'half-yearly': 6, yearly: 12 };

/** What the scales of a day take from any pay, with any tax details; as the pay of a whole year so far, or as its first. */
export function scaleOf(scope: Scope, { pay, ...asked }: ParsedQueryOf<'scale'>): AnswerOf<'scale'> {
  const details = detailsOf(scope, asked.details);
  const { payslip, before } = paidOn(scope, asked, details, pay, true);
  const kinds = { tax: 'employee', 'employer-tax': 'employer' } as const;
  return {
    taxYear: packFor(scope).taxYearOf(asked.date).label,
    before,
    taxes: payslip.lines.flatMap(({ id, code, kind, label, amount }) =>
      kind === 'tax' || kind === 'employer-tax' ? [{ code, label, of: kinds[kind], amount, key: id }] : [],
    ),
    net: payslip.totals.net,
    problems: payslip.problems.map(({ sentence }) => sentence),
    workings: payslip.workings,
  };
}

/** The tax details that most of who is employed have now. */
export async function detailsOfMost(scope: Scope): Promise<Record<string, unknown> | null> {
  const [most] = await select<{ facts: Record<string, unknown> }>(
    scope.database,
    `select t.facts from people p cross join lateral (select facts from tax_details where person_id = p.id and from_date <= :today order by from_date desc limit 1) t
     where p.employer_id = :employer and (p."left" is null or p."left" >= :today) group by t.facts order by count(*) desc, t.facts::text limit 1`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  return most?.facts ?? null;
}

/** Tax details as somebody entered them: refused where the country would not take them of a person. */
function detailsOf(scope: Scope, text: string): unknown {
  let details: unknown;
  try {
    details = JSON.parse(text);
  } catch {
    throw invalid('The tax details cannot be read. Enter them again.', [{ path: 'details', expected: 'tax details as JSON' }]);
  }
  const parsed = packFor(scope).taxSchema.safeParse(details);
  if (!parsed.success)
    throw invalid(
      'Tax details are missing or cannot be. Correct what is marked.',
      parsed.error.issues.map(({ path, message }) => ({
        path: path.join('.'),
        expected: at(details, path.join('.')) === undefined ? 'an entry' : message,
      })),
    );
  return details;
}

/** The payslip of the day, after those of the year so far where the same was paid with each. */
function paidOn(
  scope: Scope,
  { date, frequency, steady }: Asked,
  tax: unknown,
  amount: string,
  workings: boolean,
): { payslip: Payslip; before: number } {
  const { from } = packFor(scope).taxYearOf(date);
  const earlier = steady === 'yes' ? payDatesBefore(date, frequency, from) : [];
  const balances: Balances = {};
  for (const day of earlier) {
    const { lines } = computePayslip(inputOn(scope, { date: day, frequency, tax, amount, balances }));
    const sameQuarter = yearOf(day) === yearOf(date) && quarterOf(day) === quarterOf(date);
    for (const line of lines) {
      const known = balances[line.code] ?? { year: 0, inAll: 0, quarter: 0 };
      balances[line.code] = {
        year: known.year + line.amount,
        inAll: known.inAll + line.amount,
        quarter: (known.quarter ?? 0) + (sameQuarter ? line.amount : 0),
      };
    }
  }
  return { payslip: computePayslip(inputOn(scope, { date, frequency, tax, amount, balances }), { workings }), before: earlier.length };
}

function payDatesBefore(date: string, frequency: Asked['frequency'], from: string): string[] {
  const found: string[] = [];
  for (let back = 1; back <= PAY_DATES_PER_YEAR[frequency]; back++) {
    const days = DAYS[frequency];
    const day = days
      ? addDays(date, -days * back)
      : frequency === 'twice-a-month'
        ? halfMonths(date, back)
        : addMonths(date, -(MONTHS[frequency] ?? 1) * back);
    if (day < from) break;
    found.unshift(day);
  }
  return found;
}

const halfMonths = (date: string, back: number): string => {
  const whole = addMonths(date, -Math.floor(back / 2));
  return back % 2 ? addDays(whole, -15) : whole;
};

interface Of {
  date: string;
  frequency: Asked['frequency'];
  tax: unknown;
  amount: string;
  balances: Balances;
}

function inputOn(scope: Scope, { date, frequency, tax, amount, balances }: Of): PayslipInput {
  const salary = packFor(scope)
    .readyItems(date)
    .find(({ item }) => item.method.by === 'salary')?.item;
  if (!salary) throw invalid('The country has no standard item for a salary.');
  return {
    format: PAYSLIP_INPUT_FORMAT,
    country: scope.employer.country,
    pay: { date, from: addDays(date, -6), to: date, frequency, payDatesInYear: PAY_DATES_PER_YEAR[frequency] },
    person: { name: 'Anybody' },
    employer: scope.employer.facts.country,
    tax,
    rates: [{ id: 'pay', label: 'Pay', per: 'period', amount, primary: true }],
    hourItems: [],
    hours: [],
    items: [{ item: salary }],
    oneOffs: [],
    leftOut: [],
    overrides: [],
    balances,
  };
}

/** A printed table of what is withheld, from one pay to another in steps. */
export async function scalePdf(scope: Scope, { from, to, step, ...asked }: ParsedQueryOf<'scalePdf'>): Promise<Buffer> {
  const pack = packFor(scope);
  const [first, last, each] = [minorOf(from), minorOf(to), minorOf(step)];
  if (each <= 0 || last < first)
    throw invalid('The table goes from a pay to a higher one, in steps of more than nothing.', [
      { path: 'to', expected: 'more than from' },
    ]);
  const count = Math.floor((last - first) / each) + 1;
  if (count > AT_MOST_ROWS)
    throw invalid(`The table would have ${count} rows; ${AT_MOST_ROWS} are printed at most. Choose larger steps.`, [
      { path: 'step', expected: `steps of which there are at most ${AT_MOST_ROWS}` },
    ]);
  const details = detailsOf(scope, asked.details);
  const rows = Array.from({ length: count }, (_, index) => {
    const pay = first + index * each;
    const { payslip } = paidOn(scope, asked, details, (pay / 100).toFixed(2), false);
    return { pay, payslip };
  });
  const stop = rows.flatMap(({ payslip }) => payslip.problems).find(({ weight }) => weight === 'stop');
  if (stop) throw invalid(stop.sentence);
  const taxes = new Map(
    rows.flatMap(({ payslip }) => payslip.lines.filter(({ kind }) => kind === 'tax').map(({ code, label }) => [code, label] as const)),
  );
  const sheet = new Sheet(`Withholding, ${writtenDate(asked.date)}`, pack.paper).page();
  sheet.title(`Withholding, ${pack.words.frequencies[asked.frequency].toLowerCase()} pay`, pack.name);
  sheet.text(
    `By the scales in force on ${writtenDate(asked.date)}, tax year ${pack.taxYearOf(asked.date).label}. ${inWords(scope, details)}`,
    {
      color: SECOND_INK,
    },
  );
  sheet.space(8);
  // The sum of several taxes stands beside them.
  const columns = [...taxes.keys()];
  const withSum = columns.length > 1;
  const wide = (RIGHT - LEFT) / (columns.length + (withSum ? 3 : 2));
  const cells = (texts: readonly string[]) =>
    texts.map((text, index) => ({ text, at: LEFT + (index + 1) * wide, width: wide - 8, right: true as const }));
  sheet.row(cells(['Pay', ...[...taxes.values()].map(short), ...(withSum ? ['Withheld'] : []), 'Net']), 'bold').rule();
  for (const { pay, payslip } of rows) {
    const of = (code: string) =>
      payslip.lines.reduce((sum, line) => (line.code === code && line.kind === 'tax' ? sum + line.amount : sum), 0);
    const { taxes: all, net } = payslip.totals;
    sheet.row(cells([written(pay), ...columns.map((code) => written(of(code))), ...(withSum ? [written(all)] : []), written(net)]));
  }
  const unconfirmed = pack.tables.inForceOn(asked.date).filter(({ confirmed }) => !confirmed).length;
  return sheet.finish(
    `${counted(count, 'row', 'rows')}. ${unconfirmed ? `${counted(unconfirmed, 'figure', 'figures')} in force on the day could not be checked against their publication` : 'Every figure in force on the day was checked against its publication'}.`,
  );
}

const LONGEST = 18;
const short = (label: string): string => (label.length > LONGEST ? `${label.slice(0, LONGEST - 1)}…` : label);

/** The declaration in the words of the country's form. */
function inWords(scope: Scope, details: unknown): string {
  return packFor(scope)
    .taxForm.flatMap(({ fields }) => fields)
    .flatMap(({ key, label, kind, choices }) => {
      const value = at(details, key);
      if (kind === 'yes-no') return value === true ? [label] : [];
      if (typeof value !== 'string' || value === '' || value === '0') return [];
      return [`${label}: ${choices?.find((one) => one.value === value)?.label ?? value}`];
    })
    .join('; ');
}

const at = (details: unknown, key: string): unknown =>
  key.split('.').reduce<unknown>((here, part) => (here as Record<string, unknown> | undefined)?.[part], details);
