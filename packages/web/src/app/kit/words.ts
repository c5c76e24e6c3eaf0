import { Pipe, type PipeTransform } from '@angular/core';
import { counted, written, writtenDate, writtenDay, writtenDecimal, writtenPeriod } from '@woodruff/core';

/** Minor units as people read them; zero as an en dash where asked for. */
@Pipe({ name: 'money' })
export class MoneyPipe implements PipeTransform {
  transform(amount: number | null | undefined, zero: 'dash' | 'figures' = 'figures'): string {
    if (amount === null || amount === undefined) return '';
    return amount === 0 && zero === 'dash' ? '–' : written(amount);
  }
}

/** A change, always with its sign. */
export const signed = (amount: number): string => (amount === 0 ? '–' : amount > 0 ? `+${written(amount)}` : written(amount));

@Pipe({ name: 'signed' })
export class SignedPipe implements PipeTransform {
  transform(amount: number): string {
    return signed(amount);
  }
}

/** A count of things, “10,000 people”, or the number alone. */
@Pipe({ name: 'counted' })
export class CountedPipe implements PipeTransform {
  transform(count: number, one?: string, many?: string): string {
    return counted(count, one, many);
  }
}

@Pipe({ name: 'decimal' })
export class DecimalPipe implements PipeTransform {
  /** @param places at least so many, for amounts: 49.5 is 49.50 */
  transform(decimal: string, places = 0): string {
    const fraction = decimal.split('.')[1] ?? '';
    if (fraction.length >= places) return writtenDecimal(decimal);
    return writtenDecimal(`${decimal}${fraction ? '' : '.'}${'0'.repeat(places - fraction.length)}`);
  }
}

@Pipe({ name: 'day' })
export class DayPipe implements PipeTransform {
  transform(date: string | null | undefined, style: 'long' | 'short' = 'long'): string {
    return date ? (style === 'long' ? writtenDay(date) : writtenDate(date)) : '';
  }
}

@Pipe({ name: 'period' })
export class PeriodPipe implements PipeTransform {
  transform(period: { from: string; to: string }): string {
    return writtenPeriod(period.from, period.to);
  }
}

/** What a run is, after its period: its schedule, or that it is none of the regular ones. */
@Pipe({ name: 'runKind' })
export class RunKindPipe implements PipeTransform {
  transform({
    kind,
    schedule,
    name,
  }: {
    kind: 'regular' | 'special' | 'correction' | 'opening' | 'adjustment';
    schedule: string;
    name?: string;
  }): string {
    return {
      regular: schedule.toLowerCase(),
      special: name ?? 'special',
      correction: 'correction',
      opening: 'opening balances',
      adjustment: 'balances adjusted',
    }[kind];
  }
}

/** Short sentences in one: “No tax details, no national number”. */
export const listed = (sentences: readonly string[]): string =>
  sentences.map((one, index) => (index === 0 ? one : one.charAt(0).toLowerCase() + one.slice(1))).join(', ');

/** A day and time of the machine, such as 28 Nov 2026, 14:05. */
@Pipe({ name: 'moment' })
export class MomentPipe implements PipeTransform {
  transform(at: string | null | undefined): string {
    if (!at) return '';
    const when = new Date(at);
    const day = `${when.getFullYear()}-${String(when.getMonth() + 1).padStart(2, '0')}-${String(when.getDate()).padStart(2, '0')}`;
    return `${writtenDate(day)}, ${String(when.getHours()).padStart(2, '0')}:${String(when.getMinutes()).padStart(2, '0')}`;
  }
}
