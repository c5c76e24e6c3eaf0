import { addDays } from '../calendar/dates';
import type { Filing, FilingLine } from '../filings/filing';
import { placeOfCode, whatOf } from '../ledger/codes';
import { Exact } from '../money/exact';
import { computePayslip } from '../payslip/compute-payslip';
import type { PayslipInput } from '../payslip/input';
import type { CountryPack } from './country-pack';
import type { ParameterEntry } from './parameters';

/** What a pack is checked with: its dated figures, and the inputs of its examples. */
export interface PackFiles {
  entries: readonly ParameterEntry[];
  examples: readonly PayslipInput[];
}

/** What was found: faults keep a pack from being right, what is lacking keeps it from being done. */
export interface Findings {
  faults: string[];
  lacking: string[];
}

/** Looks through a pack for what a reading misses: gaps and overlaps, figures without source, and what no example reaches. */
export function checkPack(pack: CountryPack, { entries, examples }: PackFiles): Findings {
  const faults = [...entries.flatMap(faultsOf), ...faultsOfDates(entries), ...faultsOfPlaces(pack, entries)];
  return { faults, lacking: [...unconfirmed(entries), ...unreached(pack, examples)] };
}

function faultsOf(entry: ParameterEntry): string[] {
  const found: string[] = [];
  const at = `${entry.code} from ${entry.from}`;
  if (entry.publication.length < 8) found.push(`${at}: no publication`);
  if ((entry.value === undefined) === (entry.bands === undefined)) found.push(`${at}: neither or both of a value and bands`);
  if (entry.to !== undefined && entry.to < entry.from) found.push(`${at}: ends before it begins`);
  entry.bands?.slice(1).forEach((band, index) => {
    const below = entry.bands?.[index];
    if (!below) return;
    if (!Exact.of(band.over).isAbove(Exact.of(below.over))) found.push(`${at}: the band over ${band.over} overlaps the one before it`);
    if (band.base === undefined || below.base === undefined) return;
    // What a publication prints may be rounded, but is not another schedule.
    const run = Exact.of(below.base).plus(
      Exact.of(band.over).minus(Exact.of(below.over)).times(Exact.of(below.percent)).over(Exact.whole(100)),
    );
    const gap = run.minus(Exact.of(band.base));
    if (gap.isAbove(Exact.of('0.5')) || gap.isBelow(Exact.of('-0.5')))
      found.push(`${at}: the base ${band.base} over ${band.over} is not what the bands below come to, ${run.toDecimal(2)}`);
  });
  return found;
}

function faultsOfDates(entries: readonly ParameterEntry[]): string[] {
  const byCode = new Map<string, ParameterEntry[]>();
  for (const entry of entries) byCode.set(entry.code, [...(byCode.get(entry.code) ?? []), entry]);
  return [...byCode].flatMap(([code, list]) => {
    const sorted = [...list].sort((a, b) => (a.from < b.from ? -1 : 1));
    return sorted.slice(1).flatMap((entry, index) => {
      const before = sorted[index];
      if (before?.to === undefined) return [`${code}: from ${before?.from ?? ''} it has no end, and another begins on ${entry.from}`];
      if (before.to >= entry.from) return [`${code}: two hold on ${entry.from}`];
      return addDays(before.to, 1) === entry.from
        ? []
        : [`${code}: none holds from ${addDays(before.to, 1)} to ${addDays(entry.from, -1)}`];
    });
  });
}

/** A place of a figure that no base, and so no rule, knows. */
function faultsOfPlaces(pack: CountryPack, entries: readonly ParameterEntry[]): string[] {
  const known = new Set(pack.bases.flatMap((base) => (base.place ? [base.place] : [])));
  return [...new Set(entries.map((entry) => placeOfCode(entry.code)).filter(Boolean))]
    .filter((place) => !known.has(place) && !known.has(place.split('/')[0] ?? ''))
    .map((place) => `${place}: figures of a place that no rule names`);
}

const unconfirmed = (entries: readonly ParameterEntry[]): string[] => {
  const open = entries.filter((entry) => !entry.confirmed);
  return open.length ? [`${open.length} of ${entries.length} figures are not confirmed against their publication`] : [];
};

/** Treatments, bases, taxes and boxes that no example reaches. */
function unreached(pack: CountryPack, examples: readonly PayslipInput[]): string[] {
  const treatments = new Set<string>();
  const codes = new Set<string>();
  const sums: Record<string, number> = {};
  for (const input of examples) {
    for (const { item } of [...input.items, ...input.oneOffs]) treatments.add(item.treatment);
    for (const line of computePayslip(input).lines) {
      codes.add(line.code);
      if (line.kind !== 'earning') sums[line.code] = (sums[line.code] ?? 0) + Math.abs(line.amount);
    }
  }
  const lacking = Object.keys(pack.treatments)
    .filter((code) => !treatments.has(code))
    .map((code) => `no example has an item with the treatment ${code}`);
  const posted = new Set([...codes].map(whatOf));
  for (const base of pack.bases)
    if (!codes.has(base.code) && !(base.byTax && posted.has(whatOf(base.code).replace(/\.pay$/, ''))))
      lacking.push(`no example counts for ${base.code}`);
  if (!pack.whole) lacking.push('the pack says itself that it is not whole');
  if (!pack.filings({}).length) lacking.push('no filings');
  const [amount, one] = [sums, Object.fromEntries(pack.bases.map((base) => [base.code, 1]))];
  for (const filing of pack.filings({})) {
    const linesOf = (from: Record<string, number>) =>
      madeOf(pack, filing, from).filter((line) => line.unit === 'money' && line.codes.length);
    const reached = new Set(linesOf(amount).flatMap((line) => (line.amount ? [line.line] : [])));
    for (const { line } of linesOf({ ...one, ...amount }))
      if (!reached.has(line)) lacking.push(`no example reaches line ${line} of ${filing.form}`);
  }
  if (!pack.moneyOwed({}).length) lacking.push('no money owed');
  return lacking;
}

/** Lines of a filing made of sums of one person on one day, of its last known period. */
function madeOf(pack: CountryPack, filing: Filing, sums: Record<string, number>): FilingLine[] {
  const [period] = filing.periods(2026).slice(-1);
  if (!period) return [];
  const person = {
    personId: 'one',
    name: 'One',
    givenName: 'One',
    familyName: 'One',
    shared: false,
    address: true,
    sums,
    details: {},
    marked: {},
  };
  return filing.make({
    period,
    days: [{ payDate: period.from, payslips: 1, sums }],
    people: [person],
    headcounts: [1],
    gross: 0,
    byPlace: {},
    reckoned: Object.fromEntries(Object.keys(pack.reckonings?.labels ?? {}).map((code) => [code, 1])),
    earlier: { days: [], deposits: [] },
    employer: {},
    paid: 0,
    entered: {},
    items: [],
    filed: {},
  }).lines;
}
