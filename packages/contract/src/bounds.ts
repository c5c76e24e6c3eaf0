/** What no endpoint takes, whatever its schema says of the rest. */
export interface Bound {
  path: string;
  expected: string;
}

/** As long as a list is, as deep as what is sent goes, and as many keys as one object has. */
const LONGEST_LIST = 20_000;
const DEEPEST = 24;
const MOST_KEYS = 5000;
/** Texts are typed; only files are longer. */
const LONGEST_TEXT = 60_000_000;

// Control characters other than tab and the ends of lines.
const CONTROL = /[^\P{Cc}\t\n\r\u0080-\u009f]/u;
// Halves of a character that stand alone.
const HALF = /[\ud800-\udbff](?![\udc00-\udfff])|(?:^|[^\ud800-\udbff])[\udc00-\udfff]/;

/** The first thing in what was sent that cannot be stored or would not end; undefined when there is none. */
export function boundCrossed(value: unknown, path = '', depth = 0): Bound | undefined {
  if (depth > DEEPEST) return { path, expected: `at most ${DEEPEST} levels` };
  if (typeof value === 'string') return ofText(value, path);
  if (typeof value === 'number' && !Number.isFinite(value)) return { path, expected: 'a number' };
  if (Array.isArray(value)) {
    if (value.length > LONGEST_LIST) return { path, expected: `at most ${LONGEST_LIST} entries` };
    return first(value.entries(), (index, entry) => boundCrossed(entry, path ? `${path}.${index}` : String(index), depth + 1));
  }
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value);
    if (entries.length > MOST_KEYS) return { path, expected: `at most ${MOST_KEYS} fields` };
    const own = entries.find(([key]) => key in {});
    if (own) return { path, expected: 'fields with other names' };
    return first(entries, (key, entry) => ofText(key, path) ?? boundCrossed(entry, path ? `${path}.${key}` : key, depth + 1));
  }
  return undefined;
}

function ofText(text: string, path: string): Bound | undefined {
  if (text.length > LONGEST_TEXT) return { path, expected: 'a shorter text' };
  if (CONTROL.test(text) || HALF.test(text)) return { path, expected: 'a text without control characters or broken letters' };
  return undefined;
}

function first<K, V>(entries: Iterable<[K, V]>, look: (key: K, value: V) => Bound | undefined): Bound | undefined {
  for (const [key, value] of entries) {
    const found = look(key, value);
    if (found) return found;
  }
  return undefined;
}
