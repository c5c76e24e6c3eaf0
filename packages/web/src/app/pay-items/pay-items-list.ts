import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { PayItemRow, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { itemKinds, methodWords, limitWords } from './pay-item-words';
import { payItemsStore, treatmentsStore } from './pay-items.store';

const text = (value = '') => new FormControl(value, { nonNullable: true });

/** Everything that can stand on a payslip, by kind, in the order in which it is taken. */
@Component({
  selector: 'wr-pay-items-list',
  imports: [Problem, ReactiveFormsModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Pay items</h1>
        <span class="muted">{{ items()?.length ?? 0 }} items</span>
        @if (mayPrepare()) {
          <button class="main-action" type="button" (click)="adding.set(true)">Add a pay item</button>
        }
      </div>
      <wr-problem [problem]="problem()" />
      @if (adding()) {
        <form class="panel-form" [formGroup]="form" (ngSubmit)="add()">
          <div class="form">
            <label class="field">Name <input formControlName="name" /></label>
            <label class="field">Code <input formControlName="code" /><small>Stays for ever; sums are kept by it</small></label>
            <label class="field"
              >Kind
              <select formControlName="kind">
                @for (kind of kinds; track kind.kind) {
                  <option [value]="kind.kind">{{ kind.one }}</option>
                }
              </select></label
            >
            <label class="field"
              >Tax treatment
              <select formControlName="treatment">
                <option value="">Choose one</option>
                @for (treatment of fitting(); track treatment.code) {
                  <option [value]="treatment.code">{{ treatment.label }}</option>
                }
              </select>
            </label>
            <label class="field"
              >Worked out as
              <select formControlName="method">
                <option value="amount">An amount</option>
                <option value="percent">Per cent of gross pay</option>
                <option value="hours">Hours at a rate</option>
              </select>
            </label>
            @if (form.value.method === 'hours') {
              <label class="field">Multiple of the rate <input formControlName="multiple" inputmode="decimal" /></label>
            }
            <label class="field">Order <input formControlName="order" inputmode="numeric" /><small>Smaller is taken first</small></label>
          </div>
          <wr-problem [problem]="addProblem()" />
          <div class="form-actions">
            <button class="main-action" type="submit">Add this item</button
            ><button class="quiet" type="button" (click)="adding.set(false)">Leave it</button>
          </div>
        </form>
      }
      @for (group of groups(); track group.kind) {
        <section class="section">
          <h2>{{ group.many }}</h2>
          <table class="lines">
            <colgroup>
              <col style="width: 26%" />
              <col style="width: 34%" />
              <col style="width: 24%" />
              <col />
            </colgroup>
            <tr>
              <th>Item</th>
              <th>Worked out as</th>
              <th>Limits</th>
              <th class="num">Who has it</th>
            </tr>
            @for (item of group.items; track item.id) {
              <tr>
                <td>
                  <a [routerLink]="['/pay-items', item.id]">{{ item.name }}</a>
                </td>
                <td>{{ method(item) }}</td>
                <td class="muted">{{ limits(item) }}</td>
                <td class="num">
                  {{ item.method.by === 'amount' || item.method.by === 'percent' || item.method.by === 'match' ? item.held : 'as worked' }}
                </td>
              </tr>
            }
          </table>
        </section>
      } @empty {
        @if (items()) {
          <p class="notice">There is no pay item yet. Begin with salary and ordinary hours.</p>
        }
      }
    </main>
  `,
  styles: '.panel-form { background: var(--sheet); border: 1px solid var(--rule); border-radius: 3px; padding: 16px 18px; }',
})
export class PayItemsList {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly items = this.store.selectSignal(payItemsStore.selectData);
  protected readonly problem = this.store.selectSignal(payItemsStore.selectProblem);
  private readonly treatments = this.store.selectSignal(treatmentsStore.selectData);
  protected readonly kinds = itemKinds;
  protected readonly adding = signal(false);
  protected readonly addProblem = signal<ProblemDetail | null>(null);
  protected readonly form = new FormGroup({
    name: text(),
    code: text(),
    kind: text('deduction'),
    treatment: text(),
    method: text('amount'),
    multiple: text('1.5'),
    order: text('350'),
  });
  private readonly kind = signal('deduction');
  protected readonly fitting = computed(() => this.treatments()?.filter((treatment) => treatment.for.includes(this.kind())) ?? []);
  protected readonly groups = computed(() =>
    itemKinds
      .map((kind) => ({ ...kind, items: (this.items() ?? []).filter((item) => item.kind === kind.kind) }))
      .filter((group) => group.items.length),
  );
  protected readonly method = (item: PayItemRow) => methodWords(item);
  protected readonly limits = (item: PayItemRow) => limitWords(item);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (!employer()) return;
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
      this.store.dispatch(treatmentsStore.load({ input: {}, keep: true }));
    });
    this.form.controls.kind.valueChanges.subscribe((kind) => this.kind.set(kind));
  }

  protected add(): void {
    const { method, multiple, order, kind, ...rest } = this.form.getRawValue();
    const worked =
      method === 'hours'
        ? { by: 'hours' as const, multiple }
        : method === 'percent'
          ? { by: 'percent' as const, of: 'gross' as const }
          : { by: 'amount' as const };
    this.api.call('addPayItem', { body: { ...rest, kind: kind as PayItemRow['kind'], method: worked, order: Number(order) } }).subscribe({
      next: ({ id }) => void this.router.navigate(['/pay-items', id]),
      error: (error: unknown) => this.addProblem.set(problemOf(error)),
    });
  }
}
