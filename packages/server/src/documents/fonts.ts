import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { create } from 'fontkit';

const require = createRequire(import.meta.url);

export type Weight = 'text' | 'bold' | 'title';

/** Families in the order in which a letter is looked for; the weights are those of the packages. */
const FAMILIES: Record<Weight, { weight: number; families: readonly string[] }> = {
  text: { weight: 400, families: ['source-sans-3'] },
  bold: { weight: 600, families: ['source-sans-3'] },
  title: { weight: 600, families: ['source-serif-4', 'source-sans-3'] },
};
/** Letters that the product's own type has not: Han and kana, Hangul, and the scripts below. */
const OTHER_SCRIPTS = ['noto-sans-sc', 'noto-sans-kr', 'noto-sans-hebrew', 'noto-sans-arabic', 'noto-sans-devanagari', 'noto-sans-thai'];

/** One file of a family: the letters it has, and where it is. */
interface Face {
  name: string;
  file: string;
  ranges: readonly [from: number, to: number][];
}

const faces = new Map<string, Face[]>();

/** The files of a family with the letters of each, as its package says. */
function facesOf(family: string, weight: number): Face[] {
  const key = `${family} ${weight}`;
  const known = faces.get(key);
  if (known) return known;
  const folder = dirname(require.resolve(`@fontsource/${family}/package.json`));
  const ranges = JSON.parse(readFileSync(join(folder, 'unicode.json'), 'utf8')) as Record<string, string>;
  const made = Object.entries(ranges).map(([subset, text]) => {
    const plain = subset.replace(/[[\]]/g, '');
    return {
      name: `${key} ${plain}`,
      file: join(folder, 'files', `${family}-${plain}-${weight}-normal.woff`),
      ranges: text.split(',').map((range): [number, number] => {
        const [from = '', to = from] = range.trim().replace('U+', '').split('-');
        return [parseInt(from, 16), parseInt(to, 16)];
      }),
    };
  });
  // A family's plain Latin goes before what it shares with others.
  made.sort((a, b) => Number(b.name.endsWith(' latin')) - Number(a.name.endsWith(' latin')));
  faces.set(key, made);
  return made;
}

const opened = new Map<string, { hasGlyphForCodePoint(code: number): boolean }>();

/** A package's list names letters that its file has not: the file itself is asked. */
function draws({ file }: Face, code: number): boolean {
  const font = opened.get(file) ?? (create(fontFile(file)) as unknown as { hasGlyphForCodePoint(code: number): boolean });
  opened.set(file, font);
  return font.hasGlyphForCodePoint(code);
}

const found = new Map<string, Face | null>();

/** The face that has a letter; null where no font that ships has it. */
function faceOf(letter: string, weight: Weight): Face | null {
  const key = `${weight} ${letter}`;
  const known = found.get(key);
  if (known !== undefined) return known;
  const code = letter.codePointAt(0) ?? 0;
  const { weight: number, families } = FAMILIES[weight];
  const has = (face: Face) => face.ranges.some(([from, to]) => code >= from && code <= to) && draws(face, code);
  let face: Face | null = null;
  for (const family of [...families, ...OTHER_SCRIPTS]) {
    face = facesOf(family, number).find(has) ?? null;
    if (face) break;
  }
  found.set(key, face);
  return face;
}

/** What stands for a letter that no font has: it is seen that one is missing. */
const MISSING = '\u25a1';

export interface RunOfLetters {
  face: string;
  file: string;
  text: string;
}

/** A text cut where its letters come from another font. */
export function runsOf(text: string, weight: Weight): RunOfLetters[] {
  const runs: RunOfLetters[] = [];
  for (const letter of text.normalize('NFC')) {
    const face = faceOf(letter, weight) ?? faceOf(MISSING, weight) ?? faceOf('?', weight);
    if (!face) continue;
    const shown = faceOf(letter, weight) ? letter : faceOf(MISSING, weight) ? MISSING : '?';
    const last = runs[runs.length - 1];
    if (last?.face === face.name) last.text += shown;
    else runs.push({ face: face.name, file: face.file, text: shown });
  }
  return runs;
}

const unpacked = new Map<string, Buffer>();

/** A font file with its tables unpacked, once: packed ones are unpacked again for every letter that is drawn. */
export function fontFile(file: string): Buffer {
  const known = unpacked.get(file);
  if (known) return known;
  const made = unpack(readFileSync(file));
  unpacked.set(file, made);
  return made;
}

/** From the web's packing (WOFF 1.0, https://www.w3.org/TR/WOFF/) to the plain file it holds. */
function unpack(woff: Buffer): Buffer {
  const count = woff.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_none, index) => {
    const at = 44 + index * 20;
    const [offset, packed, length] = [woff.readUInt32BE(at + 4), woff.readUInt32BE(at + 8), woff.readUInt32BE(at + 12)];
    const content = woff.subarray(offset, offset + packed);
    return { tag: woff.subarray(at, at + 4), sum: woff.readUInt32BE(at + 16), content: packed < length ? inflateSync(content) : content };
  });
  const head = Buffer.alloc(12 + 16 * count);
  woff.copy(head, 0, 4, 8);
  head.writeUInt16BE(count, 4);
  const power = 2 ** Math.floor(Math.log2(count));
  head.writeUInt16BE(power * 16, 6);
  head.writeUInt16BE(Math.log2(power), 8);
  head.writeUInt16BE((count - power) * 16, 10);
  const parts = [head];
  let offset = head.length;
  tables.forEach(({ tag, sum, content }, index) => {
    const at = 12 + index * 16;
    tag.copy(head, at);
    head.writeUInt32BE(sum, at + 4);
    head.writeUInt32BE(offset, at + 8);
    head.writeUInt32BE(content.length, at + 12);
    const padded = Buffer.concat([content, Buffer.alloc((4 - (content.length % 4)) % 4)]);
    parts.push(padded);
    offset += padded.length;
  });
  return Buffer.concat(parts);
}
