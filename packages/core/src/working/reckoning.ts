import { Exact, HUNDRED, ZERO } from '../money/exact';
import { round, ROUNDING_WORDS, type Rounding } from '../money/roundings';
import type { Operation, Source, Working, WorkingStep } from './working';

/** A result with a name; its working is on the paper it was reckoned on. */
export interface Figure {
  key: string;
  label: string;
  amount: Exact;
}

/** Where workings are written. A blank paper records nothing, so that the same rules run at full speed. */
export class Paper {
  readonly workings: Record<string, Working> = {};
  constructor(readonly recording: boolean) {}

  reckon(key: string, label: string): Reckoning {
    return new Reckoning(this, key, label);
  }
}

/** A band of a progressive schedule: from an amount upwards, so much per cent of what is over it. */
export interface Band {
  over: Exact;
  percent: Exact;
  /** Tax on everything up to `over`. */
  base: Exact;
  /** What is taken off so much per cent of the whole, where the publication prints it so. */
  less?: Exact;
}

/**
 * One figure being calculated, line by line, as on paper. Each line computes and explains at once:
 * the working can not say anything else than what was done.
 */
export class Reckoning {
  private running = ZERO;
  private readonly steps: WorkingStep[] = [];
  private readonly sources: Source[] = [];
  private readonly notes: string[] = [];
  private readonly facts: Working['facts'] = [];
  private unit: Working['unit'] = 'money';

  constructor(
    private readonly paper: Paper,
    readonly key: string,
    private readonly label: string,
  ) {}

  get result(): Exact {
    return this.running;
  }

  start(label: string, operand: Exact | Figure): this {
    return this.step('start', label, operand, amountOf(operand));
  }

  plus(label: string, operand: Exact | Figure): this {
    return this.step('plus', label, operand, this.running.plus(amountOf(operand)));
  }

  less(label: string, operand: Exact | Figure): this {
    return this.step('less', label, operand, this.running.minus(amountOf(operand)));
  }

  times(label: string, operand: Exact | Figure): this {
    return this.step('times', label, operand, this.running.times(amountOf(operand)));
  }

  over(label: string, operand: Exact | Figure): this {
    return this.step('over', label, operand, this.running.over(amountOf(operand)));
  }

  /** So much per cent of the running result. */
  percent(label: string, operand: Exact | Figure): this {
    return this.step('percent', label, operand, this.running.times(amountOf(operand)).over(HUNDRED));
  }

  /** Written only when it changes the result. */
  atLeast(label: string, floor: Exact | Figure): this {
    const amount = amountOf(floor);
    return this.running.isBelow(amount) ? this.step('at-least', label, floor, amount) : this;
  }

  /** Written only when it changes the result. */
  atMost(label: string, ceiling: Exact | Figure): this {
    const amount = amountOf(ceiling);
    return this.running.isAbove(amount) ? this.step('at-most', label, ceiling, amount) : this;
  }

  /** Puts another amount in place of the result, for example one overridden for this payslip. */
  instead(label: string, operand: Exact | Figure): this {
    return this.step('instead', label, operand, amountOf(operand));
  }

  /** Applies the band of a progressive schedule into which the running result falls. */
  schedule(label: string, bands: readonly Band[]): this {
    let band = bands[0];
    for (const candidate of bands) if (!this.running.isBelow(candidate.over)) band = candidate;
    if (!band || this.running.isBelow(band.over)) return this.step('schedule', label, undefined, ZERO, 'nothing');
    const result = band.base.plus(this.running.minus(band.over).times(band.percent).over(HUNDRED));
    if (!this.paper.recording) return this.step('schedule', label, undefined, result);
    if (band.less) return this.step('schedule', label, undefined, result, `${short(band.percent)}% of the whole less ${short(band.less)}`);
    const base = band.base.isZero() ? '' : `${band.base.toDecimal()} + `;
    return this.step('schedule', label, undefined, result, `${base}${short(band.percent)}% of what is over ${band.over.toDecimal()}`);
  }

  round(rounding: Rounding, places = 2, label?: string): this {
    const result = round(this.running, rounding, places);
    const changed = !result.equals(this.running);
    this.running = result;
    if (this.paper.recording && (changed || label)) {
      const hundredths = this.unit === 'hours' ? 'Rounded to the hundredth of an hour' : 'Rounded to the cent';
      const words = places === 2 ? hundredths : places === 0 ? 'Rounded to the whole unit' : `Rounded to ${places} decimals`;
      this.steps.push({
        operation: 'round',
        label: label ?? `${words}, ${ROUNDING_WORDS[rounding]}`,
        result: result.toDecimal(),
        rounding: { name: rounding, places },
      });
    }
    return this;
  }

  in(unit: Working['unit']): this {
    this.unit = unit;
    return this;
  }

  source(...sources: readonly Source[]): this {
    if (this.paper.recording) this.sources.push(...sources);
    return this;
  }

  note(text: string): this {
    if (this.paper.recording) this.notes.push(text);
    return this;
  }

  fact(label: string, kind: string, id?: string): this {
    if (this.paper.recording) this.facts.push(id === undefined ? { label, kind } : { label, kind, id });
    return this;
  }

  done(): Figure {
    if (this.paper.recording) {
      this.paper.workings[this.key] = {
        key: this.key,
        label: this.label,
        amount: this.running.toDecimal(),
        unit: this.unit,
        steps: this.steps,
        sources: distinct(this.sources),
        notes: this.notes,
        facts: this.facts,
      };
    }
    return { key: this.key, label: this.label, amount: this.running };
  }

  private step(operation: Operation, label: string, operand: Exact | Figure | undefined, result: Exact, detail?: string): this {
    this.running = result;
    if (!this.paper.recording) return this;
    const step: WorkingStep = { operation, label, result: result.toDecimal() };
    if (operand !== undefined) step.operand = amountOf(operand).toDecimal();
    if (operand !== undefined && !(operand instanceof Exact) && operand.key) step.opens = operand.key;
    if (detail !== undefined) step.detail = detail;
    this.steps.push(step);
    return this;
  }
}

/** Compiles thresholds and rates into bands, each with the tax on all that lies below it. */
export function bandsOf(rows: readonly { over: string; percent: string; base?: string; less?: string }[]): Band[] {
  const bands: Band[] = [];
  for (const row of rows) {
    const over = Exact.of(row.over);
    const below = bands.at(-1);
    const addedUp = below ? below.base.plus(over.minus(below.over).times(below.percent).over(HUNDRED)) : ZERO;
    const percent = Exact.of(row.percent);
    if (row.less !== undefined) {
      const less = Exact.of(row.less);
      bands.push({ over, percent, base: over.times(percent).over(HUNDRED).minus(less), less });
      continue;
    }
    bands.push({ over, percent, base: row.base === undefined ? addedUp : Exact.of(row.base) });
  }
  return bands;
}

const amountOf = (operand: Exact | Figure): Exact => (operand instanceof Exact ? operand : operand.amount);

const short = (value: Exact): string => value.toDecimal().replace(/\.?0+$/, '');

function distinct(sources: Source[]): Source[] {
  const seen = new Set<string>();
  return sources.filter((source) => {
    const key = `${source.publication}|${source.section}|${source.from}`;
    return !seen.has(key) && seen.add(key);
  });
}
