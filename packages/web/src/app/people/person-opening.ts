import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { OpeningBalances, OpeningCheck, Person, ProblemDetail } from '@woodruff/contract';
import { decimalOf } from '@woodruff/core';
import { catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { Store } from '@ngrx/store';
import { typedNumber } from '@woodruff/core';

type Checked = { check: OpeningCheck | null; problem: ProblemDetail | null };

/** What an earlier system paid, by the last pay date it covers; calculated and tied out while it is entered. */
@Component({
  selector: 'wr-person-opening',
  imports: [DayPipe, FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      From an earlier system
      @if (mayPrepare() && !open()) {
        <button class="quiet" type="button" (click)="begin()">Enter what was paid</button>
      }
    </h2>
    @if (open()) {
      <form class="panel-form" (ngSubmit)="save()">
        @if (opening(); as opening) {
          <div class="beside">
            <div>
              <p class="muted">Sums of a quarter, or up to the last pay date there. What the amounts counts for is calculated.</p>
              <div class="form narrow">
                <label class="field"
                  >Paid until <input type="date" name="paidUntil" [ngModel]="paidUntil()" (ngModelChange)="paidUntil.set($event)"
                /></label>
              </div>
              <table class="lines entries">
                @for (row of rows(); track row.code) {
                  <tr>
                    <td>
                      <label [for]="'opening-' + row.code">{{ row.label }}</label>
                    </td>
                    <td class="num">
                      <input
                        class="entry"
                        [id]="'opening-' + row.code"
                        [name]="row.code"
                        inputmode="decimal"
                        [ngModel]="amounts()[row.code] ?? ''"
                        (ngModelChange)="enter(row.code, $event)"
                      />
                    </td>
                  </tr>
                }
              </table>
              <label class="field other"
                >Another item
                <select name="other" [ngModel]="''" (ngModelChange)="addRow($event)">
                  <option value="">Choose one</option>
                  @for (item of others(); track item.code) {
                    <option [value]="item.code">{{ item.name }}</option>
                  }
                </select>
              </label>
            </div>
            <aside aria-label="What it comes to">
              @if (checked()?.check; as check) {
                <h3>What it comes to</h3>
                <table class="lines">
                  <tr>
                    <td>Gross</td>
                    <td class="num">{{ check.totals.gross | money }}</td>
                  </tr>
                  <tr>
                    <td>Deductions</td>
                    <td class="num">{{ check.totals.deductions | money }}</td>
                  </tr>
                  <tr>
                    <td>Taxes</td>
                    <td class="num">{{ check.totals.taxes | money }}</td>
                  </tr>
                  <tr class="sum">
                    <td>Net</td>
                    <td class="num">{{ check.totals.net | money }}</td>
                  </tr>
                </table>
                <h3>Tax treatment</h3>
                <table class="lines">
                  @for (base of check.bases; track base.code) {
                    <tr>
                      <td>{{ base.label }}</td>
                      <td class="num">{{ base.amount | money }}</td>
                    </tr>
                  }
                </table>
                @if (check.checks.length) {
                  @for (sentence of check.checks; track sentence) {
                    <p class="notice">{{ sentence }}</p>
                  }
                  <label class="check"
                    ><input type="checkbox" name="accept" [ngModel]="accept()" (ngModelChange)="accept.set($event)" /> The earlier system
                    paid it so</label
                  >
                } @else if (check.totals.gross) {
                  <p class="ties">It ties out: the taxes that are a rate of pay agree with the pay.</p>
                }
              } @else {
                <wr-problem [problem]="checked()?.problem ?? null" />
              }
            </aside>
          </div>
        }
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit" [disabled]="!ready()">Post what was paid</button>
          <button class="quiet" type="button" (click)="open.set(false)">Cancel</button>
        </div>
      </form>
    } @else {
      <wr-problem [problem]="problem()" />
    }
    <table class="lines">
      @for (entry of opening()?.entered; track entry.paidUntil) {
        <tr>
          <td>Paid until {{ entry.paidUntil | day }}</td>
          <td class="num">gross {{ gross(entry) | money }}</td>
          <td class="num">taxes {{ taxes(entry) | money }}</td>
          <td class="num">
            @if (mayPrepare() && !open()) {
              <button type="button" class="quiet" (click)="again(entry)">Enter it again</button>
            }
          </td>
        </tr>
      } @empty {
        <tr>
          <td class="muted">
            Nothing entered. Enter it for whoever was paid elsewhere earlier this year, so that limits and the year-end statement are right.
          </td>
        </tr>
      }
    </table>
  `,
  styleUrl: './person-part.scss',
  styles: `
    .beside {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 400px;
      gap: 30px;
    }
    aside {
      border-left: 1px solid var(--rule);
      padding-left: 24px;
      font-size: 14px;
    }
    .entries {
      margin-top: 10px;
    }
    .entries td {
      vertical-align: middle;
    }
    .entries .entry {
      width: 140px;
      margin: 0 0 0 auto;
      text-align: right;
    }
    .other {
      max-width: 260px;
      margin-top: 10px;
    }
    aside h3 {
      margin: 14px 0 2px;
    }
    aside h3:first-child {
      margin-top: 0;
    }
    .ties {
      margin-top: 10px;
    }
  `,
})
export class PersonOpening {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly opening = signal<OpeningBalances | null>(null);
  protected readonly open = signal(false);
  protected readonly paidUntil = signal('');
  protected readonly amounts = signal<Readonly<Record<string, string>>>({});
  protected readonly accept = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);
  private readonly added = signal<readonly string[]>([]);
  /** Pay, the person's own items and the taxes; others when they are chosen. */
  protected readonly rows = computed(() => {
    const opening = this.opening();
    if (!opening) return [];
    const held = new Set(this.person().items.map((item) => item.code));
    const own = this.person().rates.some((rate) => rate.per === 'hour') ? ['ordinary', 'overtime'] : ['salary'];
    const shown = opening.items.filter(
      (item) => own.includes(item.code) || held.has(item.code) || this.added().includes(item.code) || this.amounts()[item.code],
    );
    return [
      ...shown.filter((item) => item.kind !== 'employer-contribution').map((item) => ({ code: item.code, label: item.name })),
      ...opening.taxes,
      ...shown.filter((item) => item.kind === 'employer-contribution').map((item) => ({ code: item.code, label: item.name })),
    ];
  });
  protected readonly others = computed(() => {
    const shown = new Set(this.rows().map((row) => row.code));
    return this.opening()?.items.filter((item) => !shown.has(item.code)) ?? [];
  });
  private readonly body = computed(() => ({
    paidUntil: this.paidUntil(),
    amounts: Object.fromEntries(
      Object.entries(this.amounts())
        .map(([code, text]) => [code, typedNumber(text)] as const)
        .filter(([, text]) => text !== ''),
    ),
  }));
  protected readonly checked = toSignal(
    toObservable(computed(() => (this.open() && this.paidUntil() ? this.body() : null))).pipe(
      debounceTime(300),
      switchMap((body) => {
        if (!body || !Object.keys(body.amounts).length) return of<Checked>({ check: null, problem: null });
        return this.api.call('checkOpening', { path: { id: this.person().id }, body }).pipe(
          map((check): Checked => ({ check, problem: null })),
          catchError((error: unknown) => of<Checked>({ check: null, problem: problemOf(error) })),
        );
      }),
    ),
  );
  protected readonly ready = computed(() => {
    const check = this.checked()?.check;
    return !!check && (!check.checks.length || this.accept());
  });

  constructor() {
    effect(() => {
      if (this.person().id) this.load();
    });
  }

  protected begin(): void {
    this.problem.set(null);
    this.accept.set(false);
    this.amounts.set({});
    this.added.set([]);
    // The quarter before the one that is running.
    const today = this.employer()?.today ?? '';
    const month = Math.floor((Number(today.slice(5, 7)) - 1) / 3) * 3;
    this.paidUntil.set(month ? `${today.slice(0, 4)}-${String(month).padStart(2, '0')}-${month === 3 ? 31 : 30}` : today);
    this.open.set(true);
  }

  protected again(entry: OpeningBalances['entered'][number]): void {
    this.begin();
    this.paidUntil.set(entry.paidUntil);
    const codes = new Set([...(this.opening()?.items ?? []), ...(this.opening()?.taxes ?? [])].map((row) => row.code));
    this.amounts.set(
      Object.fromEntries(Object.entries(entry.amounts).flatMap(([code, amount]) => (codes.has(code) ? [[code, decimalOf(amount)]] : []))),
    );
  }

  protected enter(code: string, text: string): void {
    this.amounts.update((amounts) => ({ ...amounts, [code]: text }));
  }

  protected addRow(code: string): void {
    if (code) this.added.update((added) => [...added, code]);
  }

  protected gross(entry: OpeningBalances['entered'][number]): number {
    return this.sum(
      entry,
      new Set(
        this.opening()
          ?.items.filter((item) => item.kind === 'earning')
          .map((item) => item.code),
      ),
    );
  }

  protected taxes(entry: OpeningBalances['entered'][number]): number {
    return this.sum(entry, new Set(this.opening()?.taxes.map((tax) => tax.code)));
  }

  protected save(): void {
    this.problem.set(null);
    this.api.call('postOpening', { path: { id: this.person().id }, body: { ...this.body(), acceptDifferences: this.accept() } }).subscribe({
      next: () => {
        this.open.set(false);
        this.load();
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  /** Also tells what keeps it from being entered, when it is opened. */
  private load(): void {
    this.api.call('opening', { path: { id: this.person().id } }).subscribe({
      next: (opening) => this.opening.set(opening),
      // An unfinished record has none yet; what is missing is said when it is opened.
      error: (error: unknown) => this.open() && this.problem.set(problemOf(error)),
    });
  }

  private sum(entry: OpeningBalances['entered'][number], codes: Set<string>): number {
    return Object.entries(entry.amounts).reduce((all, [code, amount]) => (codes.has(code) ? all + amount : all), 0);
  }
}
