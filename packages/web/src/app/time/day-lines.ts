import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { TimeLine, TimePage, TimeRow } from '@woodruff/contract';
import { DayPipe } from '../kit/words';
import { FigureWorking } from '../working/figure-working';
import { plainLine } from './day-cells';

/** One person's time beside the grid: lines of each day with clock, rate and kind, and what the rules make of it. */
@Component({
  selector: 'wr-day-lines',
  imports: [DayPipe, FigureWorking, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ row().name }}</h2>
    <p class="muted">{{ row().code }}, {{ row().department }}</p>
    @if (row().comment) {
      <p class="notice">Returned: {{ row().comment }}</p>
    }
    <ng-content />
    @for (point of row().points; track point) {
      <p class="notice">{{ point }}</p>
    }
    @if (row().paid.length) {
      <h3>Hours as the rules pay them</h3>
      <table class="lines">
        @for (paid of row().paid; track paid.figure) {
          <tr>
            <td>
              <button class="opens" type="button" (click)="figure.set(figure() === paid.figure ? '' : paid.figure)">
                {{ paid.label }}
              </button>
            </td>
            <td class="num">{{ paid.hours }}</td>
          </tr>
        }
      </table>
      @if (row().workings[figure()]; as working) {
        <wr-figure-working
          [working]="working"
          [workings]="row().workings"
          [difference]="null"
          [personId]="row().personId"
          (opened)="figure.set($event)"
        />
      }
    }
    <h3>Days</h3>
    @for (line of lines(); track $index; let at = $index) {
      <fieldset [disabled]="!editable()">
        <select
          [attr.aria-label]="'Day, line ' + (at + 1)"
          [name]="'date' + at"
          [(ngModel)]="line.date"
          (ngModelChange)="changed.set(true)"
        >
          @for (date of dates(); track date) {
            <option [value]="date">{{ date | day }}</option>
          }
        </select>
        @if (perOf(line) !== 'hours') {
          <div class="row">
            <label
              >{{ perOf(line) === 'tips' ? 'received' : 'pieces' }}
              <input
                class="amount"
                inputmode="decimal"
                [name]="'quantity' + at"
                [(ngModel)]="line.quantity"
                (ngModelChange)="changed.set(true)"
                [attr.aria-label]="(perOf(line) === 'tips' ? 'Tips' : 'Pieces') + ', line ' + (at + 1)"
            /></label>
          </div>
        } @else {
          <div class="row">
            <label
              >from
              <input
                type="time"
                [name]="'begins' + at"
                [(ngModel)]="line.begins"
                (ngModelChange)="changed.set(true)"
                [attr.aria-label]="'Begin, line ' + (at + 1)"
            /></label>
            <label
              >to
              <input
                type="time"
                [name]="'ends' + at"
                [(ngModel)]="line.ends"
                (ngModelChange)="changed.set(true)"
                [attr.aria-label]="'End, line ' + (at + 1)"
            /></label>
            <label
              >break
              <input
                class="short"
                inputmode="numeric"
                [name]="'break' + at"
                [(ngModel)]="line.breakMinutes"
                (ngModelChange)="changed.set(true)"
                [attr.aria-label]="'Break in minutes, line ' + (at + 1)"
            /></label>
            <label
              >or
              <input
                class="short"
                inputmode="decimal"
                placeholder="hours"
                [name]="'hours' + at"
                [(ngModel)]="line.hours"
                (ngModelChange)="changed.set(true)"
                [attr.aria-label]="'Hours, line ' + (at + 1)"
            /></label>
          </div>
        }
        <div class="row">
          @if (row().rates.length) {
            <select
              [attr.aria-label]="'Rate, line ' + (at + 1)"
              [name]="'rate' + at"
              [(ngModel)]="line.rate"
              (ngModelChange)="changed.set(true)"
            >
              <option [ngValue]="null">primary rate</option>
              @for (rate of row().rates; track rate.id) {
                <option [ngValue]="rate.id">{{ rate.label }}</option>
              }
            </select>
          }
          <select
            [attr.aria-label]="'Kind, line ' + (at + 1)"
            [name]="'item' + at"
            [(ngModel)]="line.item"
            (ngModelChange)="changed.set(true)"
          >
            <option [ngValue]="null">worked</option>
            @for (item of page().items; track item.code) {
              <option [ngValue]="item.code">{{ item.name }}{{ item.per === 'hours' ? ', not worked' : '' }}</option>
            }
          </select>
          <input
            class="place"
            placeholder="place or job"
            [name]="'place' + at"
            [(ngModel)]="line.place"
            (ngModelChange)="changed.set(true)"
            [attr.aria-label]="'Place, line ' + (at + 1)"
          />
          @if (editable()) {
            <button class="quiet" type="button" (click)="drop(at)" [attr.aria-label]="'Take line ' + (at + 1) + ' off'">remove</button>
          }
        </div>
      </fieldset>
    } @empty {
      <p class="muted">No time entered.</p>
    }
    @if (editable()) {
      <div class="form-actions">
        @if (changed()) {
          <button class="main-action" type="button" (click)="save()">Save these days</button>
        }
        <button class="quiet" type="button" (click)="add()">Another line</button>
      </div>
    }
  `,
  styles: `
    h2 {
      margin: 0;
      font-size: 18px;
    }
    h3 {
      margin: 14px 0 4px;
      font-size: 15px;
    }
    fieldset {
      border: 0;
      border-bottom: 1px solid var(--rule);
      padding: 6px 0;
      margin: 0;
      font-size: 13px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 10px;
      align-items: baseline;
      margin-top: 4px;
    }
    input,
    select {
      font: inherit;
      border: 1px solid #b9b3a4;
      border-radius: 3px;
      background: var(--sheet);
      padding: 2px 4px;
    }
    select {
      max-width: 150px;
    }
    .short {
      width: 52px;
      text-align: right;
    }
    .amount {
      width: 90px;
      text-align: right;
    }
    .place {
      width: 96px;
    }
  `,
})
export class DayLines {
  readonly row = input.required<TimeRow>();
  readonly page = input.required<TimePage>();
  readonly editable = input(false);
  readonly saved = output<TimeLine[]>();
  protected readonly lines = signal<TimeLine[]>([]);
  protected readonly changed = signal(false);
  protected readonly figure = signal('');
  protected readonly dates = computed(() => datesOf(this.page().from, this.page().to));

  constructor() {
    effect(() => {
      this.lines.set(this.row().lines.map((line) => ({ ...line, hours: line.begins ? null : line.hours })));
      this.changed.set(false);
    });
  }

  protected add(): void {
    const last = this.lines().at(-1)?.date;
    const dates = this.dates();
    const next = dates[Math.min(dates.length - 1, last ? dates.indexOf(last) + 1 : 0)] ?? '';
    this.lines.update((lines) => [...lines, { ...plainLine(next, ''), hours: null }]);
    this.changed.set(true);
  }

  /** What a line of an item is counted in. */
  protected perOf(line: TimeLine): 'hours' | 'pieces' | 'tips' {
    return this.page().items.find((item) => item.code === line.item)?.per ?? 'hours';
  }

  protected drop(at: number): void {
    this.lines.update((lines) => lines.filter((_line, index) => index !== at));
    this.changed.set(true);
  }

  protected save(): void {
    this.saved.emit(
      this.lines().map((line) => ({
        ...line,
        quantity: this.perOf(line) === 'hours' ? null : line.quantity || null,
        hours: line.begins && line.ends ? null : line.hours || null,
        begins: line.begins || null,
        ends: line.ends || null,
        breakMinutes: Number(line.breakMinutes) || 0,
      })),
    );
  }
}

/** All days of a period. */
export function datesOf(from: string, to: string): string[] {
  const dates: string[] = [];
  for (let at = new Date(`${from}T00:00:00Z`); at.toISOString().slice(0, 10) <= to; at = new Date(at.getTime() + 86_400_000))
    dates.push(at.toISOString().slice(0, 10));
  return dates;
}
