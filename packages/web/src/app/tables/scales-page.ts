import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { FREQUENCIES, type Frequency } from '@woodruff/core';
import type { ProblemDetail, Scale } from '@woodruff/contract';
import { catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { employerStore } from '../people/people.store';
import { TaxFields } from '../people/tax-fields';
import { selectEmployer } from '../session/session.store';
import { FigureWorking } from '../working/figure-working';

/** What the scales of a day take from any pay with any tax details, each with its working; and the same as a printed table. */
@Component({
  selector: 'wr-scales-page',
  imports: [CountedPipe, DayPipe, FigureWorking, FormsModule, MoneyPipe, Problem, RouterLink, TaxFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Withholding look-up</h1>
        <span class="muted">any pay, any day, any tax details; nothing is saved</span>
        <a class="quiet right" routerLink="/filings/tables">Tables</a>
      </div>
      <div class="beside">
        <div>
          <section class="section">
            <h2>Pay</h2>
            <div class="form">
              <label class="field"
                >Pay of a period
                <input inputmode="decimal" name="pay" [ngModel]="pay()" (ngModelChange)="pay.set($event)" />
              </label>
              <label class="field"
                >Paid
                <select name="frequency" [ngModel]="frequency()" (ngModelChange)="frequency.set($event)">
                  @for (one of frequencies(); track one.value) {
                    <option [value]="one.value">{{ one.label }}</option>
                  }
                </select>
              </label>
              <label class="field">Pay date <input type="date" name="date" [ngModel]="date()" (ngModelChange)="date.set($event)" /> </label>
              <label class="check"
                ><input type="checkbox" name="steady" [ngModel]="steady()" (ngModelChange)="steady.set($event)" /> The same was paid with
                every pay date of the tax year so far</label
              >
            </div>
          </section>
          <section class="section">
            <h2>Tax details</h2>
            <wr-tax-fields [details]="details()" [problem]="answer()?.problem ?? null" (entered)="details.set($event)" />
          </section>
          <section class="section">
            <h2>Printed table</h2>
            <div class="row-of">
              <label class="inline">from <input class="entry" inputmode="decimal" name="from" [(ngModel)]="from" /></label>
              <label class="inline">to <input class="entry" inputmode="decimal" name="to" [(ngModel)]="to" /></label>
              <label class="inline">in steps of <input class="entry" inputmode="decimal" name="step" [(ngModel)]="step" /></label>
              <a class="quiet" [href]="printed()" target="_blank" rel="noopener">Print the table (PDF)</a>
            </div>
          </section>
        </div>
        <aside aria-label="What is withheld" aria-live="polite">
          @if (answer()?.scale; as scale) {
            <h2>Tax year {{ scale.taxYear }}</h2>
            <p class="muted">
              Scales in force on {{ date() | day
              }}{{ scale.before ? '; the same paid with ' + (scale.before | counted: 'pay date' : 'pay dates') + ' before' : '' }}
            </p>
            <table class="lines">
              @for (tax of scale.taxes; track tax.key) {
                <tr [class.on]="opened() === tax.key">
                  <td>
                    <button type="button" class="opens" [attr.aria-expanded]="opened() === tax.key" (click)="toggle(tax.key)">
                      {{ tax.label }}
                    </button>
                    &ngsp;
                    @if (tax.of === 'employer') {
                      <span class="muted">from the employer</span>
                    }
                  </td>
                  <td class="num">{{ tax.amount | money }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">Nothing is withheld.</td>
                </tr>
              }
              <tr class="sum">
                <td>Net pay</td>
                <td class="num">{{ scale.net | money }}</td>
              </tr>
            </table>
            @for (problem of scale.problems; track problem) {
              <p class="notice">{{ problem }}</p>
            }
            @if (working(scale); as working) {
              <h3>{{ working.label }}</h3>
              <wr-figure-working
                [working]="working"
                [workings]="scale.workings"
                [difference]="null"
                personId=""
                (opened)="opened.set($event)"
              />
            }
          } @else if (answer()?.problem) {
            <wr-problem [problem]="answer()!.problem" />
          } @else {
            <p class="muted">Enter a pay: what the scales take from it stands here.</p>
          }
        </aside>
      </div>
    </main>
  `,
  styles: `
    .beside {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 420px;
      gap: 40px;
      align-items: start;
    }
    aside {
      border-left: 1px solid var(--rule);
      padding-left: 24px;
    }
    .inline input {
      width: 90px;
    }
  `,
})
export class ScalesPage {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly pack = injectPack();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly pay = signal('1000.00');
  protected readonly frequency = signal<Frequency>('weekly');
  protected readonly date = signal('');
  protected readonly steady = signal(true);
  protected readonly details = signal<Record<string, unknown>>({});
  protected readonly opened = signal('');
  protected from = '500.00';
  protected to = '2500.00';
  protected step = '50.00';
  protected readonly frequencies = computed(() =>
    FREQUENCIES.map((value) => ({ value, label: this.pack()?.words.frequencies[value] ?? value })),
  );
  private readonly asked = computed(() => (this.pay() && this.date() ? { ...this.person(), pay: this.pay() } : null));
  protected readonly answer = toSignal(
    toObservable(this.asked).pipe(
      debounceTime(200),
      switchMap((query) =>
        query
          ? this.api.call('scale', { query }).pipe(
              map((scale): { scale: Scale | null; problem: ProblemDetail | null } => ({ scale, problem: null })),
              catchError((problem: ProblemDetail) => of({ scale: null, problem })),
            )
          : of(null),
      ),
    ),
    { initialValue: null },
  );

  constructor() {
    effect(() => {
      const employer = this.employer();
      if (!employer) return;
      this.date.set(employer.today);
      this.details.set(this.begun());
      this.begins();
      this.store.dispatch(employerStore.load({ input: {}, keep: true }));
    });
  }

  /** Better than what somebody begins with are the details that most people here have. */
  private begins(): void {
    this.api.call('scaleBegins').subscribe(({ details }) => {
      if (details) this.details.set(details);
    });
  }

  /** What somebody begins with; where the country asks for a choice that has no usual answer, its first. */
  private begun(): Record<string, unknown> {
    const pack = this.pack();
    const details: Record<string, unknown> = structuredClone({ ...pack?.newTaxDetails });
    const missing = (): string | undefined => pack?.taxSchema.safeParse(details).error?.issues[0]?.path.join('.');
    const fields = pack?.taxForm.flatMap((group) => group.fields) ?? [];
    for (let tries = fields.length, key = missing(); tries > 0 && key !== undefined; tries--, key = missing()) {
      const first = fields.find((field) => field.key === key)?.choices?.[0]?.value;
      if (first === undefined) break;
      const path = key.split('.');
      const last = path.pop() ?? '';
      let here = details;
      for (const part of path) here = (here[part] ??= {}) as Record<string, unknown>;
      here[last] = first;
    }
    return details;
  }

  protected toggle(key: string): void {
    this.opened.update((open) => (open === key ? '' : key));
  }

  protected working(scale: Scale): Scale['workings'][string] | undefined {
    return scale.workings[this.opened()] ?? scale.workings[scale.taxes[0]?.key ?? ''];
  }

  protected printed(): string {
    return this.api.url('scalePdf', { query: { ...this.person(), from: this.from, to: this.to, step: this.step } });
  }

  private person(): { date: string; frequency: Frequency; details: string; steady: 'yes' | 'no' } {
    return {
      date: this.date(),
      frequency: this.frequency(),
      details: JSON.stringify(this.details()),
      steady: this.steady() ? 'yes' : 'no',
    };
  }
}
