import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { PayItemRow } from '@woodruff/contract';
import { writtenWhen } from '@woodruff/core';
import { Problem } from '../kit/problem';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { isHeld, itemKinds, methodWords, limitWords } from './pay-item-words';
import { payItemsStore } from './pay-items.store';
import { CountedPipe } from '../kit/words';

/** Everything that can stand on a payslip, by kind, in the order in which it is taken. */
@Component({
  selector: 'wr-pay-items-list',
  imports: [CountedPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Pay items</h1>
        <span class="muted">{{ items()?.length ?? 0 | counted: 'item' : 'items' }}</span>
        @if (mayPrepare()) {
          <a class="quiet right" routerLink="/pay-items/ready">Add standard items</a>
          <a class="main-action beside" routerLink="/pay-items/new">Add a pay item</a>
        }
      </div>
      <wr-problem [problem]="problem()" />
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
              <th>Calculated as</th>
              <th>Limits</th>
              <th class="num">Assigned to</th>
            </tr>
            @for (item of group.items; track item.id) {
              <tr>
                <td>
                  <a [routerLink]="['/pay-items', item.id]">{{ item.name }}</a>
                </td>
                <td>{{ method(item) }}{{ when(item) }}</td>
                <td class="muted">{{ limits(item) }}</td>
                <td class="num">
                  {{ isHeld(item) ? item.held : 'as worked' }}
                </td>
              </tr>
            }
          </table>
        </section>
      } @empty {
        @if (items()) {
          <p class="notice">There is no pay item yet. <a routerLink="/pay-items/ready">Take the ordinary ones</a> that you need.</p>
        }
      }
      @if (retired().length) {
        <details class="section">
          <summary>{{ retired().length }} retired</summary>
          <table class="lines">
            @for (item of retired(); track item.id) {
              <tr>
                <td>
                  <a [routerLink]="['/pay-items', item.id]">{{ item.name }}</a>
                </td>
                <td class="muted">{{ method(item) }}</td>
              </tr>
            }
          </table>
        </details>
      }
    </main>
  `,
  styles: `
    a.main-action {
      text-decoration: none;
    }
    .title-line .beside {
      margin-left: 0;
    }
    summary {
      color: var(--ink2);
      font-size: 14px;
    }
  `,
})
export class PayItemsList {
  private readonly store = inject(Store);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly all = this.store.selectSignal(payItemsStore.selectData);
  protected readonly items = computed(() => this.all()?.filter((item) => !item.retired) ?? null);
  protected readonly retired = computed(() => this.all()?.filter((item) => item.retired) ?? []);
  protected readonly problem = this.store.selectSignal(payItemsStore.selectProblem);
  protected readonly groups = computed(() =>
    itemKinds
      .map((kind) => ({ ...kind, items: (this.items() ?? []).filter((item) => item.kind === kind.kind) }))
      .filter((group) => group.items.length),
  );
  private readonly nameOf = (code: string): string => this.all()?.find((item) => item.code === code)?.name ?? code;
  protected readonly method = (item: PayItemRow): string => methodWords(item, this.nameOf);
  protected readonly limits = (item: PayItemRow): string => limitWords(item);
  protected readonly when = (item: PayItemRow): string => (item.when ? `, ${writtenWhen(item.when)}` : '');
  protected readonly isHeld = isHeld;

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()) this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    });
  }
}
