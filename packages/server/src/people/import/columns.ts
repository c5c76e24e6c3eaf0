import type { FormField, PayItem } from '@woodruff/core';
import { isDate, typedNumber, type Written } from '@woodruff/core';
import type { Scope } from '../../scope';
import { packFor } from '../../scope';
import { select } from '../../database/connection';

/** What a cell says, or why it was not taken and what would be. */
export type Read = { value: string | null } | { fault: string };

/** A column of the file of people: what its cells must be, and other headings under which it is known. */
export interface Column {
  key: string;
  label: string;
  also: readonly string[];
  read: (cell: string) => Read;
}

/** Everything that cells are checked against. */
export interface Choices {
  schedules: Map<string, string>;
  departments: string[];
  worksites: string[];
  jobs: string[];
  items: { id: string; definition: PayItem }[];
}

export async function choicesOf(scope: Scope): Promise<Choices> {
  const [schedules, items] = await Promise.all([
    select<{ id: string; name: string }>(scope.database, 'select id, name from pay_schedules where employer_id = :id', {
      id: scope.employer.id,
    }),
    select<{ id: string; definition: PayItem }>(
      scope.database,
      `select id, definition from pay_items where employer_id = :id and not retired and definition->'method'->>'by' not in ('hours', 'salary') order by (definition->>'order')::int`,
      { id: scope.employer.id },
    ),
  ]);
  const { departments, worksites, jobs } = scope.employer.facts;
  return {
    schedules: new Map(schedules.map((schedule) => [schedule.name.toLowerCase(), schedule.id])),
    departments,
    worksites: worksites.map((site) => site.name),
    jobs: jobs ?? [],
    items,
  };
}

const fault = (sentence: string): Read => ({ fault: sentence });
const text =
  (most: number) =>
  (cell: string): Read =>
    cell.length > most ? fault(`Shorten it to ${most} letters.`) : { value: cell };
const pattern =
  (form: RegExp, expected: string, tidy: (cell: string) => string = (cell) => cell) =>
  (cell: string): Read =>
    form.test(tidy(cell)) ? { value: tidy(cell) } : fault(`Write ${expected}.`);
const oneOf =
  (names: readonly string[], what: string, where: string) =>
  (cell: string): Read => {
    const found = names.find((name) => name.toLowerCase() === cell.toLowerCase());
    return found === undefined ? fault(`There is no ${what} “${cell}”. ${where}`) : { value: found };
  };

/** Dates as in the open format; those with strokes between were brought into it when the file was read. */
export const readDate = (cell: string): Read => (isDate(cell) ? { value: cell } : fault('Write a date such as 2026-11-27.'));

const readAmount = pattern(/^\d{1,9}(\.\d{1,2})?$/, 'an amount such as 1250.00', typedNumber);
const readFine = pattern(/^\d{1,9}(\.\d{1,6})?$/, 'a number such as 24.50', typedNumber);

function readYesNo(cell: string): Read {
  if (/^(yes|y|true|1|x)$/i.test(cell)) return { value: 'true' };
  return /^(no|n|false|0)$/i.test(cell) ? { value: 'false' } : fault('Write yes or no.');
}

/** All columns of the open format, those of the country's certificates and of the employer's items among them. */
export function columnsOf(scope: Scope, choices: Choices): Column[] {
  const place = "Add it on the employer's page, or correct the name.";
  const { person, bank } = packFor(scope);
  const asWritten =
    ({ expected, isOne }: Pick<Written, 'expected' | 'isOne'>) =>
    (cell: string): Read =>
      isOne(cell.toUpperCase()) ? { value: cell.toUpperCase() } : fault(`Write ${expected}.`);
  const kinds: Record<string, string> = { regular: 'regular', seasonal: 'seasonal', casual: 'casual', contractor: 'contractor' };
  const pers: Record<string, string> = {
    hour: 'hour',
    hourly: 'hour',
    period: 'period',
    year: 'year',
    yearly: 'year',
    annual: 'year',
    salary: 'year',
  };
  const columns: Column[] = [
    {
      key: 'code',
      label: 'Code',
      also: ['employee code', 'employee id', 'employee number', 'id', 'number'],
      read: pattern(/^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/, 'a code of letters and figures, without spaces'),
    },
    { key: 'givenName', label: 'Given names', also: ['first name', 'given name', 'first'], read: text(120) },
    { key: 'familyName', label: 'Family name', also: ['last name', 'surname', 'last'], read: text(120) },
    { key: 'born', label: 'Date of birth', also: ['birth date', 'born', 'dob'], read: readDate },
    { key: 'email', label: 'E-mail', also: ['email', 'email address'], read: pattern(/^[^\s@]+@[^\s@]+\.[^\s@]+$/, 'an e-mail address') },
    { key: 'hired', label: 'Hire date', also: ['hired', 'start date', 'date hired'], read: readDate },
    { key: 'left', label: 'Last day', also: ['left', 'end date', 'termination date'], read: readDate },
    { key: 'leftReason', label: 'Reason for leaving', also: [], read: text(120) },
    { key: 'department', label: 'Department', also: ['dept'], read: oneOf(choices.departments, 'department', place) },
    { key: 'worksite', label: 'Worksite', also: ['location', 'work location'], read: oneOf(choices.worksites, 'worksite', place) },
    {
      key: 'job',
      label: 'Job',
      also: ['job title', 'title', 'position'],
      read: choices.jobs.length ? oneOf(choices.jobs, 'job', place) : text(60),
    },
    {
      key: 'kind',
      label: 'Kind',
      also: ['employee type', 'type'],
      read: (cell) => (kinds[cell.toLowerCase()] ? { value: cell.toLowerCase() } : fault('Write regular, seasonal, casual or contractor.')),
    },
    {
      key: 'schedule',
      label: 'Pay schedule',
      also: ['schedule', 'pay frequency', 'frequency'],
      read: (cell) => {
        const id = choices.schedules.get(cell.toLowerCase());
        return id ? { value: id } : fault(`There is no pay schedule “${cell}”. Add it on the employer's page, or correct the name.`);
      },
    },
    {
      key: 'standardHours',
      label: 'Standard hours',
      also: ['hours per period', 'standard hours of a period'],
      read: pattern(/^\d{1,3}(\.\d{1,2})?$/, 'hours such as 80', typedNumber),
    },
    { key: 'line1', label: 'Street', also: ['address', 'address 1', 'street address'], read: text(80) },
    { key: 'city', label: 'City', also: ['town'], read: text(60) },
    ...(person.address.state
      ? [{ key: 'state', label: person.address.state.label, also: ['state'], read: asWritten(person.address.state) }]
      : []),
    {
      key: 'postcode',
      label: person.address.postcode.label,
      also: ['postcode', ...person.address.postcode.also],
      read: asWritten(person.address.postcode),
    },
    {
      key: 'nationalNumber',
      label: person.number.label,
      also: ['national number', ...person.number.also],
      read: (cell) => {
        // A masked number, as the export writes it, changes nothing.
        if (cell.startsWith('•')) return { value: null };
        const bare = person.number.bare(cell);
        return person.number.isOne(bare) ? { value: bare } : fault('This number cannot exist. Compare it with the card.');
      },
    },
    {
      key: 'rate',
      label: 'Rate',
      also: ['pay rate', 'salary', 'amount', 'rate of pay'],
      read: (cell) => (Number(typedNumber(cell)) === 0 ? fault('A rate is more than zero.') : readFine(cell)),
    },
    {
      key: 'ratePer',
      label: 'Rate per',
      also: ['per', 'pay type', 'rate type'],
      read: (cell) => (pers[cell.toLowerCase()] ? { value: pers[cell.toLowerCase()] ?? '' } : fault('Write hour, period or year.')),
    },
    { key: 'rateLabel', label: 'Rate name', also: ['rate name'], read: text(120) },
    { key: 'rateFrom', label: 'Rate from', also: ['rate effective', 'effective date'], read: readDate },
    { key: 'secondRate', label: 'Second rate', also: ['rate 2'], read: readFine },
    { key: 'secondRateLabel', label: 'Second rate name', also: ['rate 2 name'], read: text(120) },
    {
      key: 'routing',
      label: bank.code.label,
      also: bank.code.also,
      read: (cell) => {
        const bare = bank.code.bare(cell);
        return bank.code.isOne(bare) ? { value: bare } : fault(`Write ${bank.code.expected}, as on the bank letter.`);
      },
    },
    {
      key: 'account',
      label: bank.account.label,
      also: ['account number', 'bank account'],
      read: (cell) => {
        if (cell.startsWith('•')) return { value: null };
        const bare = bank.account.bare(cell);
        return bank.account.isOne(bare) ? { value: bare } : fault(`Write ${bank.account.expected}.`);
      },
    },
    { key: 'taxFrom', label: 'Tax details from', also: [], read: readDate },
  ];
  for (const field of packFor(scope).taxForm.flatMap((group) => group.fields)) {
    const known = columns.find((column) => column.key === `tax:${field.key}`);
    // The same field on both generations of the certificate: either one's choices are right.
    if (known) known.read = either(known.read, readField(field));
    else columns.push({ key: `tax:${field.key}`, label: field.label, also: [field.key.toLowerCase()], read: readField(field) });
  }
  for (const { definition } of choices.items)
    columns.push({
      key: `item:${definition.code}`,
      label: definition.name,
      also: [definition.code, `item ${definition.code}`],
      read:
        definition.method.by === 'match' || definition.method.by === 'table'
          ? readYesNo
          : definition.method.by === 'percent'
            ? percentOf
            : readFine,
    });
  return columns;
}

const percentOf = (cell: string): Read => readFine(cell.replace(/%$/, '').trim());

function readField(field: FormField): (cell: string) => Read {
  switch (field.kind) {
    case 'choice':
      return (cell) => {
        const found = field.choices?.find(
          (choice) => choice.value.toLowerCase() === cell.toLowerCase() || choice.label.toLowerCase() === cell.toLowerCase(),
        );
        return found ? { value: found.value } : fault(`Write one of: ${field.choices?.map((choice) => choice.value).join(', ')}.`);
      };
    case 'yes-no':
      return readYesNo;
    case 'amount':
      return readAmount;
    case 'count':
      return pattern(/^\d{1,2}$/, 'a whole number');
    case 'date':
      return readDate;
    case 'percent':
      return percentOf;
    default:
      return text(40);
  }
}

const either =
  (first: Column['read'], second: Column['read']) =>
  (cell: string): Read => {
    const read = first(cell);
    return 'fault' in read ? second(cell) : read;
  };

const plain = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[^a-z0-9:]+/g, ' ')
    .trim();

/** Columns by heading: as remembered, as in the format, or as they are often called; each column once. */
export function matched(
  headings: readonly string[],
  columns: readonly Column[],
  remembered: Readonly<Record<string, string>>,
): (string | null)[] {
  const taken = new Set<string>();
  const claim = (key: string | undefined): string | null => {
    if (!key || taken.has(key)) return null;
    taken.add(key);
    return key;
  };
  const known = (heading: string) => columns.find((column) => column.key === remembered[plain(heading)])?.key;
  const named = (heading: string) =>
    columns.find((column) => [column.key, column.label, ...column.also].some((candidate) => plain(candidate) === plain(heading)))?.key;
  const byMemory = headings.map((heading) => claim(known(heading)));
  return headings.map((heading, index) => byMemory[index] ?? claim(named(heading)));
}

export { plain as headingKey };
