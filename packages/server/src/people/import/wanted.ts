import type { ImportCheck } from '@woodruff/contract';
import type { CountryPack } from '@woodruff/core';
import { randomUUID } from 'node:crypto';
import { packFor, type Scope } from '../../scope';
import { theVault } from '../../vault/vault';
import type { Choices } from './columns';
import { accountsOf, type Payment } from '../payment/accounts';
import { everybodyOnFile, type OnFile, type PersonRow, type RateRow } from './on-file';

export type Problem = ImportCheck['problems'][number];
export type Cells = Record<string, string | null>;

/** One person of the file, read and compared with what is on file. */
export interface Wanted {
  row: number;
  id: string;
  code: string;
  cells: Cells;
  /** What would change, in words; empty when the row says what is on file. */
  changes: string[];
  isNew: boolean;
  person: PersonRow;
  rates: RateRow[];
  tax: { id: string; person_id: string; from_date: string; facts: unknown } | null;
  items: { id: string; person_id: string; item_id: string; amount: string | null; percent: string | null; from_date: string }[];
  ended: string[];
  /** Account numbers by the id of their account, where they change. */
  numbers: Record<string, string> | null;
  /** Where the pay goes from now on, in words, for somebody who was on file with another account. */
  paidTo: string | null;
  /** Rates and tax details that are written over, as they were. */
  replaced: { rates?: RateRow[]; tax?: unknown } | null;
}

/** Each row of the file held against what is on file. */
export async function compared(
  scope: Scope,
  read: { number: number; cells: Cells }[],
  choices: Choices,
  mapping: readonly (string | null)[],
  problems: Problem[],
): Promise<Wanted[]> {
  const onFile = new Map((await everybodyOnFile(scope)).map((entry) => [entry.person.code.toLowerCase(), entry]));
  const numbers = new Map<string, string>();
  for (const { person } of onFile.values()) if (person.number_fingerprint) numbers.set(person.number_fingerprint, person.code);
  const pack = packFor(scope);
  return read.map(({ number, cells }) => {
    const known = onFile.get((cells['code'] ?? '').toLowerCase());
    const id = known?.person.id ?? randomUUID();
    const changes: string[] = [];
    const problem = (column: string, value: string, remedy: string) => problems.push({ row: number, column, value, remedy });
    const paid = paymentOf(cells, known, pack.words);
    const person = personOf(id, cells, known, paid?.payment, changes);
    if (person.left && person.hired && person.left < person.hired)
      problem('Last day', person.left, 'It is before the hire date. Correct one of them.');
    if (person.born && person.hired && person.born > person.hired)
      problem('Date of birth', person.born, 'It is after the hire date. Correct one of them.');
    if (cells['nationalNumber']) {
      const fingerprint = theVault().fingerprint(cells['nationalNumber']);
      const other = theVault()
        .allFingerprints(cells['nationalNumber'])
        .map((one) => numbers.get(one))
        .find(Boolean);
      if (other && other.toLowerCase() !== person.code.toLowerCase())
        problem(
          pack.person.number.label,
          pack.person.number.masked(cells['nationalNumber'].slice(-4)),
          `${other} has this number, too. Compare both with their cards.`,
        );
      numbers.set(fingerprint, person.code);
      if (fingerprint !== person.number_fingerprint) changes.push('national number');
      person.number_fingerprint = fingerprint;
      person.number_last4 = cells['nationalNumber'].slice(-4);
    }
    const rates = ratesOf(id, cells, person, known, changes, problem);
    const tax = taxOf(id, cells, person, known, pack, mapping, changes, problem);
    const { items, ended } = itemsOf(id, cells, person, known, choices, scope.employer.today, changes);
    return {
      row: number,
      id,
      code: person.code,
      cells,
      changes,
      isNew: !known,
      person,
      rates,
      tax,
      items,
      ended,
      numbers: paid?.numbers ?? null,
      paidTo: known ? (paid?.words ?? null) : null,
      replaced: replacedBy(rates, tax, known),
    };
  });
}

function replacedBy(rates: readonly RateRow[], tax: Wanted['tax'], known: OnFile | undefined): Wanted['replaced'] {
  const overwritten = (known?.rates ?? []).filter((was) => rates.some((rate) => rate.id === was.id));
  const details = tax && known?.tax?.from_date === tax.from_date ? known.tax.facts : undefined;
  if (!overwritten.length && !details) return null;
  return { ...(overwritten.length ? { rates: overwritten } : {}), ...(details ? { tax: details } : {}) };
}

/** Facts as they will stand: what the file says, else what is on file. An empty cell leaves a fact alone. */
function personOf(id: string, cells: Cells, known: OnFile | undefined, payment: Payment | undefined, changes: string[]): PersonRow {
  const before = known?.person;
  const take = <T extends string | null>(key: string, was: T, label: string): T => {
    const value = cells[key];
    if (value === undefined || value === null || value === was) return was;
    changes.push(label);
    return value as T;
  };
  const address = { line1: '', line2: '', city: '', state: '', postcode: '', ...before?.address };
  for (const part of ['line1', 'city', 'state', 'postcode'] as const) address[part] = take(part, address[part], 'address');
  if (payment) changes.push('payment');
  const hours = take('standardHours', before?.standard_hours ?? null, '');
  const sameHours = hours !== null && before?.standard_hours != null && Number(hours) === Number(before.standard_hours);
  if (changes.at(-1) === '') {
    changes.pop();
    if (!sameHours) changes.push('standard hours');
  }
  return {
    id,
    code: before?.code ?? cells['code'] ?? '',
    given_name: take('givenName', before?.given_name ?? '', 'given names'),
    family_name: take('familyName', before?.family_name ?? '', 'family name'),
    born: take('born', before?.born ?? null, 'date of birth'),
    email: take('email', before?.email ?? null, 'e-mail'),
    hired: take('hired', before?.hired ?? null, 'hire date'),
    left: take('left', before?.left ?? null, 'last day'),
    left_reason: take('leftReason', before?.left_reason ?? null, 'reason for leaving'),
    department: take('department', before?.department ?? '', 'department'),
    worksite: take('worksite', before?.worksite ?? '', 'worksite'),
    job: take('job', before?.job ?? '', 'job'),
    kind: take('kind', before?.kind ?? 'regular', 'kind'),
    schedule_id: take('schedule', before?.schedule_id ?? null, 'pay schedule'),
    standard_hours: sameHours ? before.standard_hours : hours,
    address,
    number_fingerprint: before?.number_fingerprint ?? null,
    number_last4: before?.number_last4 ?? null,
    payment: payment ?? before?.payment ?? null,
  };
}

/** Another account for what is not shared out: accounts with a share of their own stay as they are. */
function paymentOf(
  { routing, account }: Cells,
  known: OnFile | undefined,
  { cheque }: CountryPack['words'],
): { payment: Payment; numbers: Record<string, string>; words: string } | null {
  if (!routing || !account) return null;
  const before = accountsOf(known?.person.payment ?? null);
  const main = before.find((one) => one.by === 'remainder');
  if (main?.bank === routing && known?.numbers[main.id] === account) return null;
  const last4 = account.slice(-4);
  const id = randomUUID();
  const others = before.filter((one) => one !== main);
  const accounts = [
    ...others,
    { id, bank: routing, last4, kind: main?.kind ?? ('checking' as const), by: 'remainder' as const, value: null, trial: null },
  ];
  const numbers = Object.fromEntries(others.map((one) => [one.id, known?.numbers[one.id] ?? '']));
  return {
    payment: { method: 'deposit', bank: routing, last4, accounts },
    numbers: { ...numbers, [id]: account },
    words: `Paid to the account ending ${last4}; until now ${main ? `to the account ending ${main.last4}` : `by ${cheque}`}`,
  };
}

export type Tell = (column: string, value: string, remedy: string) => void;

/** A rate that is in force already is left; another one from the same day corrects it; else it begins on its day. */
function ratesOf(id: string, cells: Cells, person: PersonRow, known: OnFile | undefined, changes: string[], problem: Tell): RateRow[] {
  const rates: RateRow[] = [];
  const add = (series: 'primary' | '2', amount: string | null | undefined, label: string) => {
    if (!amount) return;
    const from = cells['rateFrom'] ?? person.hired;
    if (!from) return problem('Rate from', '', 'A rate begins on a day: give it here, or give the hire date.');
    const held = (known?.rates ?? []).filter((rate) => rate.series === series);
    const inForce = held.filter((rate) => rate.from_date <= from).sort((a, b) => (a.from_date < b.from_date ? 1 : -1))[0];
    const per = cells['ratePer'] ?? inForce?.per ?? 'hour';
    if (inForce && Number(inForce.amount) === Number(amount) && inForce.per === per) return;
    const corrected = inForce?.from_date === from ? `, instead of ${inForce.amount}` : '';
    changes.push(`${series === 'primary' ? 'rate' : 'second rate'} ${amount} from ${from}${corrected}`);
    rates.push({
      id: inForce?.from_date === from ? inForce.id : randomUUID(),
      person_id: id,
      series,
      label,
      per,
      amount,
      from_date: from,
      is_primary: series === 'primary',
    });
  };
  add('primary', cells['rate'], cells['rateLabel'] ?? 'Pay');
  add('2', cells['secondRate'], cells['secondRateLabel'] ?? 'Second rate');
  return rates;
}

function taxOf(
  id: string,
  cells: Cells,
  person: PersonRow,
  known: OnFile | undefined,
  pack: CountryPack,
  mapping: readonly (string | null)[],
  changes: string[],
  problem: Tell,
): Wanted['tax'] {
  const entered = mapping.filter((key): key is string => !!key?.startsWith('tax:') && cells[key] !== null && cells[key] !== undefined);
  if (!entered.length) return null;
  const facts = structuredClone(known?.tax?.facts ?? {});
  const kinds = new Map(pack.taxForm.flatMap((group) => group.fields).map((field) => [field.key, field.kind]));
  for (const key of entered)
    put(facts, key.slice('tax:'.length), kinds.get(key.slice('tax:'.length)) === 'yes-no' ? cells[key] === 'true' : cells[key]);
  const parsed = pack.taxSchema.safeParse(facts);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    problem(issue?.path.join('.') ?? 'Tax details', '', `Tax details are not complete: expected ${issue?.message ?? 'more'}.`);
    return null;
  }
  if (known?.tax && JSON.stringify(sorted(parsed.data)) === JSON.stringify(sorted(known.tax.facts))) return null;
  const from = cells['taxFrom'] ?? known?.tax?.from_date ?? person.hired;
  if (!from) {
    problem('Tax details from', '', 'Tax details begin on a day: give it here, or give the hire date.');
    return null;
  }
  changes.push(`tax details from ${from}`);
  return { id: randomUUID(), person_id: id, from_date: from, facts: parsed.data };
}

function itemsOf(
  id: string,
  cells: Cells,
  person: PersonRow,
  known: OnFile | undefined,
  choices: Choices,
  today: string,
  changes: string[],
): Pick<Wanted, 'items' | 'ended'> {
  const items: Wanted['items'] = [];
  const ended: string[] = [];
  for (const { id: itemId, definition } of choices.items) {
    const value = cells[`item:${definition.code}`];
    if (value === undefined || value === null) continue;
    const { by } = definition.method;
    const current = known?.items?.find((held) => held.item_id === itemId);
    if (value === 'false') {
      if (current) {
        ended.push(current.id);
        changes.push(`${definition.name} ends`);
      }
      continue;
    }
    const amount = by === 'match' || by === 'table' || by === 'percent' ? null : value;
    const percent = by === 'percent' ? value : null;
    if (current && same(current.amount, amount) && same(current.percent, percent)) continue;
    if (current) ended.push(current.id);
    changes.push(`${definition.name} ${percent ? `${percent}%` : (amount ?? '')}`.trim());
    items.push({ id: randomUUID(), person_id: id, item_id: itemId, amount, percent, from_date: known ? today : (person.hired ?? today) });
  }
  return { items, ended };
}

const same = (a: string | null, b: string | null): boolean => (a === null || b === null ? a === b : Number(a) === Number(b));

function put(facts: Record<string, unknown>, path: string, value: unknown): void {
  const parts = path.split('.');
  let here = facts;
  for (const part of parts.slice(0, -1)) here = (here[part] ??= {}) as Record<string, unknown>;
  here[parts.at(-1) ?? path] = value;
}

const sorted = (value: unknown): unknown =>
  value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(
        Object.entries(value)
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([key, inner]) => [key, sorted(inner)]),
      )
    : value;
