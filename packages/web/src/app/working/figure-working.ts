import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Difference, PayslipView } from '@woodruff/contract';
import { writtenDate, writtenDecimal } from '@woodruff/core';
import { RouterLink } from '@angular/router';
import { DayPipe, DecimalPipe, MoneyPipe, SignedPipe } from '../kit/words';

type Working = PayslipView['workings'][string];
type Step = Working['steps'][number];

/** A working as one would write it on paper: terms, rule, table and its date, source, rounding, result. */
@Component({
  selector: 'wr-figure-working',
  imports: [DayPipe, DecimalPipe, MoneyPipe, SignedPipe, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let shown = working();
    <div class="steps">
      @for (line of lines(); track $index) {
        @if (line.step.opens && workings()[line.step.opens]) {
          <button class="opens" type="button" (click)="opened.emit(line.step.opens)">{{ line.label }} ›</button>
        } @else {
          <span>{{ line.label }}</span>
        }
        <span class="num" [class.detail-only]="line.muted">{{ line.amount }}</span>
        @if (line.detail) {
          <span class="detail">{{ line.detail }}</span>
        }
      }
      @if (!lines().length) {
        <span class="muted">Nothing counts for it on this payslip.</span><span></span>
      }
      <span class="sum">{{ shown.label }}</span><span class="num sum">{{ shown.amount | decimal }}</span>
    </div>
    @for (note of shown.notes; track $index) {
      <p class="note">{{ note }}</p>
    }
    <div class="source">
      @for (source of sources(); track $index) {
        <div>
          {{ source.text }}
          @if (source.unconfirmed) {
            <strong class="attention">unconfirmed: could not be checked against the publication</strong>
          }
        </div>
      }
      @for (fact of shown.facts; track $index) {
        <a class="fact" [routerLink]="['/people', personId()]" [fragment]="fact.kind">{{ fact.label }} ›</a>
      }
    </div>
    @if (difference(); as difference) {
      @if (difference.earlierPayDate) {
        <h3>Why it differs from {{ difference.earlierPayDate | day: 'short' }}</h3>
        <div class="steps">
          @for (cause of difference.causes; track $index) {
            <span [class.attention]="cause.group === 'unexplained'">
              @for (sentence of cause.sentences; track $index) {
                <span class="cause">{{ sentence }}</span>
              }
            </span>
            <span class="num">{{ cause.share | signed }}</span>
          } @empty {
            <span class="muted">It does not differ.</span><span></span>
          }
          <span class="sum">{{ difference.earlier | money }} → {{ difference.later | money }}</span>
          <span class="num sum">{{ difference.difference | signed }}</span>
        </div>
      }
    }
  `,
  styles: `
    .steps {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px 14px;
      align-items: baseline;
    }
    .detail {
      grid-column: 1 / -1;
      padding-left: 14px;
      color: var(--ink2);
      margin-top: -2px;
    }
    .detail-only {
      color: var(--ink2);
    }
    .sum {
      border-top: 1px solid var(--ink);
      padding-top: 4px;
      font-weight: 600;
      margin-top: 3px;
    }
    .source {
      margin-top: 14px;
      padding-top: 10px;
      border-top: 1px solid var(--rule);
      color: var(--ink2);
    }
    .source > div {
      margin-bottom: 3px;
    }
    .fact {
      display: inline-block;
      color: var(--ink);
      margin: 2px 14px 0 0;
    }
    .note {
      margin: 10px 0 0;
      color: var(--ink2);
    }
    .cause {
      display: block;
    }
    h3 {
      margin: 22px 0 6px;
    }
  `,
})
export class FigureWorking {
  readonly working = input.required<Working>();
  readonly workings = input.required<Record<string, Working>>();
  readonly difference = input<Difference | null>(null);
  readonly personId = input.required<string>();
  readonly opened = output<string>();

  protected readonly lines = computed(() => this.working().steps.map((step, index, all) => lineOf(step, index, all)));
  protected readonly sources = computed(() => {
    // The same publication is named once, with its sections one after another.
    const byPublication = new Map<string, { sections: string[]; from: string | undefined; unconfirmed: boolean }>();
    for (const source of this.working().sources) {
      const known = byPublication.get(source.publication) ?? { sections: [], from: source.from, unconfirmed: false };
      if (source.section) known.sections.push(source.section);
      byPublication.set(source.publication, { ...known, unconfirmed: known.unconfirmed || source.unconfirmed === true });
    }
    return [...byPublication].map(([publication, { sections, from, unconfirmed }]) => ({
      text: `${publication}${sections.length ? `: ${sections.join('; ')}` : ''}.${from ? ` In force from ${writtenDate(from)}.` : ''}`,
      unconfirmed,
    }));
  });
}

interface Line {
  step: Step;
  label: string;
  amount: string;
  detail: string;
  muted: boolean;
}

const SIGNS: Record<string, string> = { plus: '+', less: '−', times: '×', over: '÷' };

function lineOf(step: Step, index: number, all: Step[]): Line {
  const money = (decimal: string) => writtenDecimal(cents(decimal));
  const operand = step.operand ?? '';
  switch (step.operation) {
    case 'plus':
    case 'less': {
      // In a list of amounts only the amounts matter; between other steps the running result does too.
      const list = all.every((other) => ['start', 'plus', 'less', 'round'].includes(other.operation));
      const sign = index === 0 ? '' : step.operation === 'less' ? '−' : '+';
      if (list) return { step, label: step.label, amount: `${sign}${money(operand)}`, detail: '', muted: false };
      return { step, label: step.label, amount: money(step.result), detail: `${SIGNS[step.operation]} ${money(operand)}`, muted: false };
    }
    case 'times':
    case 'over':
      return {
        step,
        label: `${step.label} ${SIGNS[step.operation]} ${plain(operand)}`,
        amount: money(step.result),
        detail: '',
        muted: false,
      };
    case 'percent':
      return {
        step,
        label: step.label.includes('%') ? step.label : `${step.label}, ${plain(operand)}%`,
        amount: money(step.result),
        detail: '',
        muted: false,
      };
    case 'schedule':
      return {
        step,
        label: step.label,
        amount: money(step.result),
        detail: (step.detail ?? '').replace(/\d+\.\d+/g, (number) => writtenDecimal(number)),
        muted: false,
      };
    case 'at-most':
    case 'at-least':
      return {
        step,
        label: `${step.operation === 'at-most' ? 'No more than' : 'At least'}: ${lower(step.label)}`,
        amount: money(step.result),
        detail: '',
        muted: false,
      };
    case 'round':
      return { step, label: step.label, amount: money(step.result), detail: '', muted: true };
    default:
      return { step, label: step.label, amount: step.label === 'Hours' ? plain(operand) : money(operand), detail: '', muted: false };
  }
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
const plain = (decimal: string): string => writtenDecimal(decimal.replace(/\.0+$/, ''));

/** To the cent for reading; the six decimals stay in the data. */
function cents(decimal: string): string {
  const [whole = '0', fraction = ''] = decimal.split('.');
  if (fraction.length <= 2) return decimal;
  const up = Number(fraction[2]) >= 5;
  const scaled = BigInt(whole.replace('-', '') + fraction.slice(0, 2)) + (up ? 1n : 0n);
  const text = scaled.toString().padStart(3, '0');
  return `${decimal.startsWith('-') ? '-' : ''}${text.slice(0, -2)}.${text.slice(-2)}`;
}
