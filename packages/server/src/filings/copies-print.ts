import { COPIES_AT_ONCE, type Copy, type ParsedQueryOf } from '@woodruff/contract';
import { written } from '@woodruff/core';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../documents/sheet';
import { select } from '../database/connection';
import { invalid, notFound } from '../errors';
import { packFor, type Scope } from '../scope';
import { contentOf, type Content } from './events';
import { filingOf, madeNow, type Found } from './make';

type Asked = Partial<ParsedQueryOf<'copiesPdf'>>;

/** How many copies stand on a page: where each begins, how wide it is, and how many boxes stand side by side in it. */
const PARTS = {
  1: { at: [{ x: LEFT, y: 40 }], width: RIGHT - LEFT, side: 2, height: 690 },
  2: { at: [0, 372].map((y) => ({ x: LEFT, y: 36 + y })), width: RIGHT - LEFT, side: 2, height: 330 },
  4: { at: [0, 372].flatMap((y) => [LEFT, 318].map((x) => ({ x, y: 36 + y }))), width: 240, side: 1, height: 330 },
} as const;
type Each = keyof typeof PARTS;
/** From the top of a copy to its first box, and from one row of boxes to the next. */
const HEAD = 130;
const ROW = 11.5;

/** As many copies to a page as were asked for, or as few as their boxes leave room for. */
function fitting(rows: number, asked: Each): Each {
  const fits = (each: Each): boolean => Math.ceil(rows / PARTS[each].side) * ROW + HEAD <= PARTS[each].height;
  return ([4, 2, 1] as const).find((each) => each <= asked && fits(each)) ?? 1;
}

/**
 * People's statements on plain pages of our own, for an envelope with a window: a draft as they are now, or as they were
 * prepared in an attempt. A page for each person, with one, two or four copies of the statement on it.
 */
export async function copiesPdf(scope: Scope, code: string, key: string, asked: Asked, password?: string): Promise<Buffer> {
  const found = filingOf(scope, code, key);
  const { filing, period } = found;
  const content = asked.attempt === undefined ? await madeNow(scope, found) : await contentOf(scope, code, key, asked.attempt);
  if (!filing.copies || !content) throw notFound('statement');
  const draft = asked.attempt === undefined;
  const corrected = new Map((asked.corrected ? (content.corrected ?? []) : []).map((one) => [one.personId, one]));
  const stated = asked.corrected ? withNobodyMissing(content) : content.copies;
  const wanted = stated.filter(
    ({ personId }) => (!asked.person || personId === asked.person) && (!asked.corrected || corrected.has(personId)),
  );
  const all = await inOrder(scope, found, wanted, asked);
  if (!all.length) throw notFound('statement');
  if (asked.part === undefined && all.length > COPIES_AT_ONCE)
    throw invalid(`${all.length} statements are too many for one file. Print them ${COPIES_AT_ONCE} at a time.`, [
      { path: 'part', expected: `1 to ${Math.ceil(all.length / COPIES_AT_ONCE)}` },
    ]);
  const first = ((asked.part ?? 1) - 1) * COPIES_AT_ONCE;
  const copies = all.slice(first, first + COPIES_AT_ONCE);
  if (!copies.length) throw notFound('statement');
  const name = filing.copies.name;
  const allFirst = copies.every(({ personId }) => corrected.get(personId)?.first);
  const title = `${asked.corrected && !allFirst ? filing.copies.corrected : name} for ${period.label}`;
  const sheet = new Sheet(draft ? `${title}, draft` : title, packFor(scope).paper);
  for (const copy of copies) {
    const correction = corrected.get(copy.personId);
    const begin = () => {
      sheet.page();
      if (draft) sheet.watermark('DRAFT');
    };
    if (correction && !correction.first) {
      begin();
      correctionOn(sheet, scope, content, copy, title, correction);
      continue;
    }
    const asMany = asked.each ?? 1;
    const each = fitting(copy.boxes.length + copy.marks.length, asMany);
    for (let index = 0; index < asMany; index++) {
      const part = index % each;
      if (part === 0) begin();
      const { x, y } = PARTS[each].at[part] ?? { x: LEFT, y: 40 };
      const note = asMany > 1 ? (filing.copies.sets?.[index] ?? '') : '';
      copyOn(sheet, scope, { content, copy, title: correction ? `${name} for ${period.label}` : title, note, each, x, y });
    }
  }
  return sheet.finish(draft ? `${content.employer.name}. ${content.source}` : '', password);
}

/** Who is corrected to nothing has no copy any more, and is told so. */
const withNobodyMissing = ({ copies, corrected = [] }: Content): Copy[] => [
  ...copies,
  ...corrected
    .filter(({ personId }) => !copies.some((copy) => copy.personId === personId))
    .map(({ personId, name }) => ({ personId, name, number: null, to: [name], control: null, boxes: [], marks: [], checks: [] })),
];

interface Placed {
  content: Content;
  copy: Copy;
  title: string;
  note: string;
  each: Each;
  x: number;
  y: number;
}

function copyOn(sheet: Sheet, scope: Scope, { content, copy, title, note, each, x, y }: Placed): void {
  const { width, side: rows } = PARTS[each];
  const right = x + width;
  headOn(sheet, scope, content, copy, { title, note, x, y, width });
  const half = rows === 2 ? (width - 24) / 2 : width;
  const entries = [
    ...copy.boxes.map(({ box, label, amount }) => ({ box, label, text: written(amount) })),
    ...copy.marks.map(({ box, label, text }) => ({ box, label, text })),
  ];
  const count = Math.ceil(entries.length / rows);
  for (let row = 0; row < count; row++)
    sheet.line(
      Array.from({ length: rows }, (_, column) => entries[row + column * count]).flatMap((entry, column) => {
        if (!entry) return [];
        const at = column === 0 ? x : right - half;
        return [
          { text: entry.box, at, width: 52 },
          { text: entry.label, at: at + 54, width: half - 54 - 62 },
          { text: entry.text, at: at + half, right: true, width: 60 },
        ];
      }),
      { size: 8.5, height: ROW },
    );
}

/** Who gives it, to whom as the window of an envelope shows it, and by which numbers. */
function headOn(
  sheet: Sheet,
  scope: Scope,
  content: Content,
  copy: Copy,
  { title, note, x, y, width }: { title: string; note: string; x: number; y: number; width: number },
): void {
  const pack = packFor(scope);
  const right = x + width;
  sheet.to(y);
  sheet.line(
    [
      { text: title, at: x, width: width - 90 },
      { text: copy.control === null ? 'Draft' : `Control ${copy.control}`, at: right, right: true, width: 86 },
    ],
    { size: 11, height: 14, style: 'bold' },
  );
  if (note) sheet.line([{ text: note, at: x, width }], { size: 8, height: 11, color: SECOND_INK });
  const lines = [
    content.employer.name,
    pack.person.address.line(scope.employer.facts.address),
    `Employer number ${content.employer.number}`,
  ];
  for (const text of lines) sheet.line([{ text, at: x, width }], { size: 8.5, height: 11 });
  sheet.to(y + 66);
  for (const text of copy.to.length ? copy.to : [copy.name])
    sheet.line([{ text, at: x + 12, width: width - 12 }], { size: 10, height: 13 });
  sheet.to(y + HEAD - 14);
  sheet.line([{ text: `${pack.person.number.label} ${copy.number ?? 'missing'}`, at: x, width }], { size: 8.5, height: 15, style: 'bold' });
}

function correctionOn(
  sheet: Sheet,
  scope: Scope,
  content: Content,
  copy: Copy,
  title: string,
  { boxes, marks, named }: NonNullable<Content['corrected']>[number],
): void {
  headOn(sheet, scope, content, copy, { title, note: 'Corrects what was given before', x: LEFT, y: 40, width: RIGHT - LEFT });
  const figures = (before: string, now: string) => [
    { text: before, at: RIGHT - 110, right: true, width: 100 },
    { text: now, at: RIGHT, right: true, width: 100 },
  ];
  sheet.line([{ text: 'Box', at: LEFT, width: 80 }, ...figures('As given', 'Right')], { size: 9, height: 15, style: 'bold' });
  if (named) sheet.line([{ text: 'Name or number: as above', at: LEFT, width: 300 }], { size: 9, height: 14 });
  for (const { box, label, before, now } of boxes)
    sheet.line(
      [{ text: box, at: LEFT, width: 80 }, { text: label, at: LEFT + 84, width: 240 }, ...figures(written(before), written(now))],
      {
        size: 9,
        height: 14,
      },
    );
  for (const { box, label, before, now } of marks)
    sheet.line([{ text: box, at: LEFT, width: 80 }, { text: label, at: LEFT + 84, width: 240 }, ...figures(before || '–', now || '–')], {
      size: 9,
      height: 14,
    });
}

/** Statements in the order that they are printed in; of those that go on paper alone, where that is asked. */
async function inOrder(
  scope: Scope,
  { filing, period }: Found,
  copies: readonly Copy[],
  { order, paper, attempt }: Asked,
): Promise<Copy[]> {
  if (!paper && (order ?? 'name') === 'name') return [...copies];
  const rows = await select<{ id: string; department: string; postcode: string; electronic: boolean }>(
    scope.database,
    `select p.id, p.department, coalesce(p.address->>'postcode', '') as postcode,
            exists (select 1 from copies_given g where g.person_id = p.id and g.filing = :filing and g.period = :period and g.attempt = :attempt and g.how <> 'paper') as electronic
     from people p where p.employer_id = :employer`,
    { employer: scope.employer.id, filing: filing.code, period: period.key, attempt: attempt ?? 0 },
  );
  const known = new Map(rows.map((row) => [row.id, row]));
  const by = ({ personId, number }: Copy): string =>
    order === 'department'
      ? (known.get(personId)?.department ?? '')
      : order === 'postcode'
        ? (known.get(personId)?.postcode ?? '')
        : order === 'number'
          ? (number ?? '')
          : '';
  return copies
    .filter(({ personId }) => !paper || !known.get(personId)?.electronic)
    .map((copy, index) => ({ copy, index, key: by(copy) }))
    .sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : a.index - b.index))
    .map(({ copy }) => copy);
}
