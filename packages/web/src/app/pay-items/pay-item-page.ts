import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { BodyOf, Effect, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, DecimalPipe, MoneyPipe, SignedPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { itemKinds, limitWords, methodWords, shortfallWords } from './pay-item-words';
import { payItemStore } from './pay-items.store';

const text = (value = '') => new FormControl(value, { nonNullable: true });

/** One pay item: how it is worked out, what it counts for, who has it; a change shows its effect before it is saved. */
@Component({
  selector: 'wr-pay-item-page',
  imports: [DayPipe, DecimalPipe, MoneyPipe, Problem, ReactiveFormsModule, RouterLink, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-problem [problem]="problem()" />
      @if (item(); as item) {
        <div class="title-line">
          <h1>{{ item.name }}</h1>
          <span class="muted">{{ kind() }}, code {{ item.code }}</span>
          @if (mayPrepare() && !editing()) {
            <button class="main-action" type="button" (click)="edit()">Change the item</button>
          }
        </div>
        @if (editing()) {
          <form class="panel-form" [formGroup]="form" (ngSubmit)="preview()">
            <p class="muted">From now on, for everyone who has it and every run not yet approved.</p>
            <div class="form">
              <label class="field">Name <input formControlName="name" /></label>
              <label class="field">Order <input formControlName="order" inputmode="numeric" /><small>Smaller is taken first</small></label>
              <label class="field">Limit per payslip <input formControlName="perPayslip" inputmode="decimal" /></label>
              <label class="field">Limit per year <input formControlName="perYear" inputmode="decimal" /></label>
              <label class="field">Limit in all <input formControlName="inAll" inputmode="decimal" /></label>
              @if (item.kind === 'deduction') {
                <label class="field"
                  >When pay does not cover it
                  <select formControlName="shortfall">
                    <option value="take-part">Take part</option>
                    <option value="skip">Leave it out</option>
                    <option value="carry-forward">Take part, carry the rest forward</option>
                  </select>
                </label>
              }
            </div>
            <wr-problem [problem]="saveProblem()" />
            @if (effect(); as effect) {
              <div class="notice">
                @if (effect.people.length) {
                  <p>
                    In the open runs this changes net pay of {{ effect.people.length }}
                    {{ effect.people.length === 1 ? 'person' : 'people' }}; {{ effect.unchanged }} stay as they are.
                  </p>
                  <table class="lines">
                    <tr>
                      <th>Person</th>
                      <th class="num">Net before</th>
                      <th class="num">Net after</th>
                      <th class="num">Change</th>
                    </tr>
                    @for (person of effect.people; track person.name) {
                      <tr>
                        <td>{{ person.name }}</td>
                        <td class="num">{{ person.before | money }}</td>
                        <td class="num">{{ person.after | money }}</td>
                        <td class="num">{{ person.after - person.before | signed }}</td>
                      </tr>
                    }
                  </table>
                } @else {
                  Net pay in the open runs stays as it is.
                }
              </div>
              <div class="form-actions">
                <button class="main-action" type="button" (click)="save()">Save the change from now on</button
                ><button class="quiet" type="button" (click)="editing.set(false)">Leave as it was</button>
              </div>
            } @else {
              <div class="form-actions">
                <button class="main-action" type="submit">Show what it changes</button
                ><button class="quiet" type="button" (click)="editing.set(false)">Leave as it was</button>
              </div>
            }
          </form>
        }
        <section class="section">
          <h2>How it works</h2>
          <dl class="pair">
            <dt>Worked out as</dt>
            <dd>{{ method() }}</dd>
            <dt>Limits</dt>
            <dd>{{ limits() || 'none of its own' }}</dd>
            <dt>Order</dt>
            <dd>{{ item.order }}</dd>
            @if (item.kind === 'deduction') {
              <dt>When pay does not cover it</dt>
              <dd>{{ shortfall() }}</dd>
            }
          </dl>
        </section>
        <section class="section">
          <h2>What it counts for</h2>
          <dl class="pair">
            @for (count of item.counts; track count.base) {
              <dt>{{ count.label }}</dt>
              <dd>{{ count.sign === 1 ? 'adds to it' : 'lowers it' }}</dd>
            } @empty {
              <dt>No tax</dt>
              <dd>It is neither taxed nor does it lower a tax.</dd>
            }
          </dl>
          @if (item.treatmentSource) {
            <p class="muted source">Source: {{ item.treatmentSource }}</p>
          }
        </section>
        <section class="section">
          <h2>Who has it</h2>
          <table class="lines">
            <tr>
              <th>Person</th>
              <th class="num">Each pay</th>
              <th class="num">Taken this year</th>
              <th class="num">From</th>
              <th class="num">Until</th>
            </tr>
            @for (holder of item.holders; track holder.personId + holder.from) {
              <tr>
                <td>
                  <a [routerLink]="['/people', holder.personId]" fragment="items">{{ holder.name }}</a>
                </td>
                <td class="num">{{ holder.percent ? holder.percent + '%' : holder.amount ? (holder.amount | decimal) : 'worked out' }}</td>
                <td class="num">{{ holder.taken | money: 'dash' }}</td>
                <td class="num">{{ holder.from | day: 'short' }}</td>
                <td class="num">{{ holder.to | day: 'short' }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">Nobody has it as a recurring item.</td>
              </tr>
            }
          </table>
        </section>
      } @else if (!problem()) {
        <p class="muted">Fetching the item …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1000px;
    }
    .panel-form {
      background: var(--sheet);
      border: 1px solid var(--rule);
      border-radius: 3px;
      padding: 16px 18px;
    }
    .pair {
      display: grid;
      grid-template-columns: 320px minmax(0, 1fr);
      gap: 4px 20px;
      margin: 0;
      font-size: 14px;
    }
    .pair dt {
      color: var(--ink2);
      font-weight: 400;
    }
    .pair dd {
      margin: 0;
    }
    .source {
      font-size: 13px;
      margin-top: 8px;
    }
  `,
})
export class PayItemPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly id = input.required<string>();
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly item = this.store.selectSignal(payItemStore.selectData);
  protected readonly problem = this.store.selectSignal(payItemStore.selectProblem);
  protected readonly editing = signal(false);
  protected readonly effect = signal<Effect | null>(null);
  protected readonly saveProblem = signal<ProblemDetail | null>(null);
  protected readonly form = new FormGroup({
    name: text(),
    order: text(),
    perPayslip: text(),
    perYear: text(),
    inAll: text(),
    shortfall: text('take-part'),
  });
  protected readonly kind = computed(() => itemKinds.find((kind) => kind.kind === this.item()?.kind)?.one ?? '');
  protected readonly method = computed(() => (this.item() ? methodWords(this.item()!) : ''));
  protected readonly limits = computed(() => (this.item() ? limitWords(this.item()!) : ''));
  protected readonly shortfall = computed(() => shortfallWords[this.item()?.shortfall ?? 'take-part']);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()) this.store.dispatch(payItemStore.load({ input: { path: { id: this.id() } } }));
    });
    this.form.valueChanges.subscribe(() => this.effect.set(null));
  }

  protected edit(): void {
    const item = this.item();
    if (!item) return;
    this.form.reset({
      name: item.name,
      order: String(item.order),
      perPayslip: item.limits?.perPayslip ?? '',
      perYear: item.limits?.perYear ?? '',
      inAll: item.limits?.inAll ?? '',
      shortfall: item.shortfall ?? 'take-part',
    });
    this.saveProblem.set(null);
    this.editing.set(true);
  }

  protected preview(): void {
    this.saveProblem.set(null);
    this.api
      .call('payItemEffect', { path: { id: this.id() }, body: this.changed() })
      .subscribe({ next: (effect) => this.effect.set(effect), error: (error: unknown) => this.saveProblem.set(problemOf(error)) });
  }

  protected save(): void {
    this.api
      .call('changePayItem', { path: { id: this.id() }, body: { version: this.item()?.version ?? 0, item: this.changed() } })
      .subscribe({
        next: () => {
          this.editing.set(false);
          this.store.dispatch(payItemStore.load({ input: { path: { id: this.id() } }, keep: true }));
        },
        error: (error: unknown) => this.saveProblem.set(problemOf(error)),
      });
  }

  private changed(): BodyOf<'payItemEffect'> {
    const { code, kind, treatment, method } = this.item()!;
    const { name, order, perPayslip, perYear, inAll, shortfall } = this.form.getRawValue();
    const limits = { ...(perPayslip ? { perPayslip } : {}), ...(perYear ? { perYear } : {}), ...(inAll ? { inAll } : {}) };
    return {
      code,
      kind,
      treatment,
      method,
      name,
      order: Number(order),
      ...(Object.keys(limits).length ? { limits } : {}),
      ...(kind === 'deduction' ? { shortfall: shortfall as 'skip' } : {}),
    };
  }
}
