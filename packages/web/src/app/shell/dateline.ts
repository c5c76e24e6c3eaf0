import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, HostListener, inject, signal, viewChild } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { addDays, addMonths, dateOf, daysBetween, monthOf, writtenDay, writtenPeriod, yearOf } from '@woodruff/core';
import { Keys } from '../kit/keys';
import { selectEmployer } from '../session/session.store';
import { timelineStore } from './timeline.store';

/** Pixels of a day. */
const DAY = 15;
/** Pixels between two captions, of the button that folds, and of a caption in its type. */
const GAP = 8;
const FOLD = 44;
const widthOf = (text: string): number => text.length * 6.8;
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

interface Mark {
  x: number;
  y: number;
  label: string;
  go: () => void;
  state: string;
}

/** Time itself: periods as spans, pay dates as dots, things due as diamonds, today as a line. Everything on it opens. */
@Component({
  selector: 'wr-dateline',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="line" [class.folded]="folded()" #frame>
      <svg
        [attr.width]="width()"
        [attr.height]="folded() ? 14 : 51"
        role="group"
        aria-label="Dateline: pay periods, pay dates and due dates"
      >
        @for (month of months(); track month.x) {
          <line [attr.x1]="month.x" y1="0" [attr.x2]="month.x" y2="51" stroke="#ECE9E1" />
        }
        <line x1="0" y1="18" [attr.x2]="width()" y2="18" stroke="#DAD6CB" />
        @if (!folded()) {
          @for (holiday of holidays(); track holiday.label) {
            <g role="img" [attr.aria-label]="holiday.label">
              <title>{{ holiday.label }}</title>
              <rect [attr.x]="holiday.x" y="19" [attr.width]="day" height="32" fill="#ECE9E1" />
            </g>
          }
          @for (span of spans(); track span.key) {
            <g class="mark" role="link" tabindex="-1" [attr.aria-label]="span.label" (click)="span.go()" (keydown.enter)="span.go()">
              <title>{{ span.label }}</title>
              <rect [attr.x]="span.x" [attr.y]="span.y - 7" [attr.width]="span.width" height="14" fill="transparent" />
              <rect
                [attr.x]="span.x + 0.5"
                [attr.y]="span.y - 3"
                [attr.width]="span.width - 1"
                height="6"
                [attr.fill]="span.fill"
                [attr.stroke]="span.stroke"
              />
            </g>
          }
          @for (dot of dots(); track dot.label) {
            <g class="mark" role="link" tabindex="0" [attr.aria-label]="dot.label" (click)="dot.go()" (keydown.enter)="dot.go()">
              <title>{{ dot.label }}</title>
              <circle
                [attr.cx]="dot.x"
                [attr.cy]="dot.y"
                r="4.5"
                [attr.fill]="dot.state === 'approved' ? '#1E2730' : '#fff'"
                [attr.stroke]="dot.state === 'next' ? '#8A5A00' : '#1E2730'"
                [attr.stroke-width]="dot.state === 'next' ? 2 : 1"
              />
            </g>
          }
          @for (diamond of diamonds(); track diamond.label) {
            <g
              class="mark"
              role="link"
              tabindex="0"
              [attr.aria-label]="diamond.label"
              (click)="diamond.go()"
              (keydown.enter)="diamond.go()"
            >
              <title>{{ diamond.label }}</title>
              <path
                [attr.d]="'M' + diamond.x + ' ' + (diamond.y - 6.4) + 'l6.4 6.4l-6.4 6.4l-6.4 -6.4z'"
                [attr.fill]="diamond.state === 'past' ? '#1E2730' : '#fff'"
                stroke="#1E2730"
              />
            </g>
          }
        }
        <line [attr.x1]="todayX()" y1="0" [attr.x2]="todayX()" y2="51" stroke="#9E2A1F" stroke-width="1.5" />
        @if (!folded()) {
          @for (caption of captions(); track caption.text) {
            <text [attr.x]="caption.x" y="13" [attr.fill]="caption.fill" font-weight="600">{{ caption.text }}</text>
          }
        }
      </svg>
      <button class="fold" type="button" (click)="folded.set(!folded())" [attr.aria-expanded]="!folded()">
        {{ folded() ? 'Unfold' : 'Fold' }}
      </button>
    </div>
  `,
  styles: `
    .line {
      position: relative;
      background: var(--sheet);
      border-bottom: 1px solid var(--rule);
      overflow: hidden;
      height: 52px;
    }
    .line.folded {
      height: 15px;
    }
    svg {
      display: block;
      font:
        12px 'Source Sans 3 Variable',
        sans-serif;
      fill: var(--ink2);
    }
    .mark {
      cursor: pointer;
    }
    .mark:focus-visible {
      outline: 2px solid var(--ochre);
    }
    .mark:hover :is(rect, circle, path) {
      stroke: var(--ochre);
    }
    .fold {
      position: absolute;
      right: 6px;
      top: 0;
      border: 0;
      background: var(--sheet);
      color: var(--ink2);
      font-size: 11px;
      padding: 0 4px;
      opacity: 0.75;
    }
    .fold:focus-visible,
    .fold:hover {
      opacity: 1;
    }
    .folded .fold {
      line-height: 13px;
    }
  `,
})
export class Dateline {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly frame = viewChild.required<ElementRef<HTMLElement>>('frame');
  private readonly employer = this.store.selectSignal(selectEmployer);
  private readonly timeline = this.store.selectSignal(timelineStore.selectData);
  protected readonly width = signal(1280);
  protected readonly folded = signal(false);
  /** Days by which the line is moved away from showing today. */
  private readonly shift = signal(0);
  private readonly start = computed(() =>
    addDays(this.employer()?.today ?? '2026-01-01', this.shift() - Math.floor((this.width() / DAY) * 0.62)),
  );

  constructor() {
    effect(() => {
      const employer = this.employer();
      if (!employer) return;
      const start = this.start();
      this.store.dispatch(
        timelineStore.load({
          input: { query: { from: addDays(start, -40), to: addDays(start, Math.ceil(this.width() / DAY) + 40) } },
          keep: true,
        }),
      );
    });
    inject(Keys).add(
      { keys: '[', label: 'Dateline: earlier', run: () => this.shift.update((days) => days - 14) },
      { keys: ']', label: 'Dateline: later', run: () => this.shift.update((days) => days + 14) },
    );
    queueMicrotask(() => this.measure());
  }

  @HostListener('window:resize')
  protected measure(): void {
    this.width.set(this.frame().nativeElement.clientWidth || 1280);
  }

  @HostListener('wheel', ['$event'])
  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.shift.update((days) => days + Math.sign(event.deltaY || event.deltaX) * 4);
  }

  private x(date: string): number {
    return daysBetween(this.start(), date) * DAY;
  }

  protected readonly todayX = computed(() => this.x(this.employer()?.today ?? this.start()) + DAY / 2);

  protected readonly day = DAY;
  /** The employer's own holidays, as days in grey. */
  protected readonly holidays = computed(() =>
    (this.timeline()?.holidays ?? []).map(({ date, label }) => ({
      x: this.x(date),
      label: `${label}, ${writtenDay(date)}: nothing is paid`,
    })),
  );

  protected readonly months = computed(() => {
    const months: { x: number; name: string }[] = [];
    let first = dateOf(yearOf(this.start()), monthOf(this.start()), 1);
    while (this.x(first) < this.width()) {
      const name = `${MONTHS[monthOf(first) - 1] ?? ''}${monthOf(first) === 1 ? ` ${yearOf(first)}` : ''}`;
      months.push({ x: this.x(first), name });
      first = addMonths(first, 1);
    }
    return months;
  });

  /** What stands above the line. Today and the next pay date keep their places; the name of a month moves aside, or is left out. */
  protected readonly captions = computed(() => {
    const placed: { x: number; end: number; text: string; fill: string }[] = [];
    const place = (from: number, to: number, text: string, fill: string) => {
      let x = from;
      for (const other of [...placed].sort((a, b) => a.x - b.x))
        if (x < other.end + GAP && x + widthOf(text) + GAP > other.x) x = other.end + GAP;
      if (x + widthOf(text) <= to) placed.push({ x, end: x + widthOf(text), text, fill });
    };
    const end = this.width() - FOLD;
    place(this.todayX() + 5, Infinity, 'today', '#9E2A1F');
    const next = this.next();
    if (next) place(next.x - 14, Infinity, `${next.day} pay`, '#8A5A00');
    const months = this.months();
    months.forEach(({ x, name }, index) => place(Math.max(20, x + 8), Math.min(end, months[index + 1]?.x ?? end), name, 'var(--ink2)'));
    return placed;
  });

  private readonly periods = computed(() =>
    (this.timeline()?.rows ?? []).flatMap((row, index) =>
      row.periods.map((period) => ({ ...period, schedule: row.schedule, y: 28 + index * 12 })),
    ),
  );

  protected readonly spans = computed(() =>
    this.periods().map((period) => ({
      key: `${period.schedule} ${period.from}`,
      x: this.x(period.from),
      y: period.y,
      width: (daysBetween(period.from, period.to) + 1) * DAY - 4,
      fill: period.state === 'approved' ? '#DAD6CB' : period.state === 'open' ? '#8A5A00' : '#fff',
      stroke: period.state === 'none' ? '#C9C3B4' : 'none',
      label: `${period.schedule}: ${writtenPeriod(period.from, period.to)}${period.extra ? ', one pay date more than usual this year' : ''}`,
      go: () => this.open(period),
    })),
  );

  private readonly nextPay = computed(() => {
    const today = this.employer()?.today ?? '';
    return this.periods()
      .filter((period) => period.state !== 'approved' && period.payDate >= today)
      .sort((a, b) => (a.payDate < b.payDate ? -1 : 1))[0];
  });

  protected readonly next = computed(() => {
    const next = this.nextPay();
    return next ? { x: this.x(next.payDate) + DAY / 2, day: Number(next.payDate.slice(8)) } : null;
  });

  protected readonly dots = computed((): Mark[] =>
    this.periods().map((period) => ({
      x: this.x(period.payDate) + DAY / 2,
      y: period.y,
      label: `Pay date ${writtenDay(period.payDate)}, ${period.schedule.toLowerCase()}${period.extra ? ' (one more than usual this year)' : ''}`,
      state: period.state === 'approved' ? 'approved' : period === this.nextPay() ? 'next' : 'later',
      go: () => this.open(period),
    })),
  );

  protected readonly diamonds = computed((): Mark[] =>
    (this.timeline()?.due ?? []).map((due) => ({
      x: this.x(due.date) + DAY / 2,
      y: 34,
      label: `${due.what}, due ${writtenDay(due.date)}`,
      state: due.overdue ? 'past' : 'coming',
      go: () => void this.router.navigateByUrl(due.link),
    })),
  );

  private open(period: { runId: string | null; from: string }): void {
    void this.router.navigateByUrl(period.runId ? `/pay-runs/${period.runId}` : '/today');
  }
}
