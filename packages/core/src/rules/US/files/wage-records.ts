import { readRecord, type FixedField, type FixedRecord } from '../../../files/fixed-width';
import type { FilingFile, Named } from '../../../filings/filing';
import { textOf, type PostalAddress, type Sender, type Stated } from '../../../filings/sender';

// What the files of wage statements and of their corrections have in common: fields, amounts and their order, whom they name.

export const text = (key: string, length: number): FixedField => ({ key, length, kind: 'text' });
export const figures = (key: string, length: number): FixedField => ({ key, length, kind: 'figures' });
export const blank = (length: number): FixedField => ({ key: '', length, kind: 'text', always: '' });
export const is = (value: string): FixedField => ({ key: 'type', length: value.length, kind: 'text', always: value });

/** Location, delivery, city, state and postcode, and what is for other countries. */
export const address = (of: string): FixedField[] => [
  text(`${of}.location`, 22),
  text(`${of}.delivery`, 22),
  text(`${of}.city`, 22),
  text(`${of}.state`, 2),
  text(`${of}.zip`, 5),
  text(`${of}.zip4`, 4),
];
export const abroad = [blank(5), blank(23), blank(15), blank(2)];

/** Whom the agency can ask. */
export const contact: FixedField[] = [text('contact', 27), text('phone', 15), text('extension', 5)];

/** Amounts of a person in the order of their columns: box, and the field's name; without a box it is not used here. */
export const MONEY: readonly (readonly [key: string, box: string | null])[] = [
  ['wages', '1'],
  ['withheld', '2'],
  ['socialWages', '3'],
  ['socialTax', '4'],
  ['medicareWages', '5'],
  ['medicareTax', '6'],
  ['socialTips', '7'],
  ['unused1', null],
  ['dependentCare', '10'],
  ['codeD', '12 D'],
  ['codeE', '12 E'],
  ['codeF', '12 F'],
  ['codeG', '12 G'],
  ['codeH', '12 H'],
  ['unused2', null],
  ['nonqualified457', null],
  ['codeW', '12 W'],
  ['nonqualifiedOther', '11'],
  ['codeQ', '12 Q'],
  ['unused3', null],
  ['codeC', '12 C'],
  ['codeV', '12 V'],
  ['codeY', '12 Y'],
  ['codeAA', '12 AA'],
  ['codeBB', '12 BB'],
  ['codeDD', '12 DD'],
  ['codeFF', '12 FF'],
];

/** Amounts that fewer people have, in a record of their own: each the sum of its boxes. The last two are new in 2026: unconfirmed. */
export const MORE: readonly (readonly [key: string, boxes: readonly string[]])[] = [
  ['allocatedTips', ['8']],
  ['uncollectedTips', ['12 A', '12 B']],
  ['codeR', ['12 R']],
  ['codeS', ['12 S']],
  ['codeT', ['12 T']],
  ['codeM', ['12 M']],
  ['codeN', ['12 N']],
  ['codeZ', ['12 Z']],
  ['unused', []],
  ['codeEE', ['12 EE']],
  ['codeGG', ['12 GG']],
  ['codeHH', ['12 HH']],
  ['codeTP', ['12 TP']],
  ['codeTT', ['12 TT']],
];

export const digits = (value: string): string => value.replace(/\D/g, '');
export const place = (of: string, { line1, line2, city, state, postcode }: PostalAddress): Record<string, string> => {
  const zip = digits(postcode);
  return {
    [`${of}.location`]: line2,
    [`${of}.delivery`]: line1,
    [`${of}.city`]: city,
    [`${of}.state`]: state,
    [`${of}.zip`]: zip.slice(0, 5),
    [`${of}.zip4`]: zip.slice(5, 9),
  };
};

export const inFigures = (amount: number, who: string): string => {
  if (amount < 0) throw new RangeError(`${who}: an amount below nothing has no place in the file`);
  return String(amount);
};

/** Kind of employer, and under which return its employees are (Form W-3, box b). */
const KINDS: Readonly<Record<string, string>> = {
  '501c-non-govt': 'T',
  'state-local-non-501c': 'S',
  'state-local-501c': 'Y',
  'federal-govt': 'F',
};
export const employerKinds = ({ kind, employer }: Pick<Sender, 'kind' | 'employer'>): Record<string, string> => ({
  kind: KINDS[kind] ?? 'N',
  employment: employer['federalReturn'] === '944' ? 'F' : 'R',
});

export const named = ({ number, givenName, familyName }: Stated): Record<string, string> => {
  const [given = '', ...middle] = givenName.toUpperCase().split(' ');
  return { number: digits(number), given, middle: middle.join(' '), family: familyName.toUpperCase() };
};

/** What is missing before wage statements, or corrections of them, can go by file. */
export const wants: FilingFile['wants'] = ({ employer, contact, address: where }) => [
  ...(/^[A-Z0-9]{8}$/.test(textOf(employer, 'submitterId'))
    ? []
    : [{ sentence: 'The User ID of whom files wage statements, eight letters and figures', part: 'registrations' as const }]),
  ...(contact.name && contact.phone && contact.email
    ? []
    : [{ sentence: 'Name, telephone and e-mail of whom the agency can ask', part: 'legal' as const }]),
  ...(where.line1 && where.city && where.postcode ? [] : [{ sentence: "The employer's full address", part: 'legal' as const }]),
];

/** Names as a record has them: first, middle and family name in columns of their own. */
const namedIn = (number: string, given: string, middle: string, family: string): Named => ({
  number,
  givenName: [given, middle].filter(Boolean).join(' '),
  familyName: family,
});

/** Whom a file names, in the order of its statements: of records that begin so. */
export const namedBy =
  (begins: string, record: FixedRecord): NonNullable<FilingFile['named']> =>
  (content) =>
    content
      .split(/\r?\n/)
      .filter((line) => line.startsWith(begins))
      .map((line, index) => {
        const { values } = readRecord(record, line, index + 1);
        return namedIn(values['number'] ?? '', values['given'] ?? '', values['middle'] ?? '', values['family'] ?? '');
      });
