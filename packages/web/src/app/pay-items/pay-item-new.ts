import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { selectEmployer } from '../session/session.store';
import { ItemForm } from './item-form';
import { itemChoicesStore, payItemsStore } from './pay-items.store';

/** A pay item of one's own, from nothing. */
@Component({
  selector: 'wr-pay-item-new',
  imports: [FormsModule, ItemForm, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>A new pay item</h1>
        <span class="muted">Standard ones are <a routerLink="/pay-items/ready">ready to take</a></span>
      </div>
      @if (choices(); as choices) {
        <form (ngSubmit)="add()">
          <wr-item-form [choices]="choices" [items]="items()" />
          <wr-problem [problem]="problem()" />
          <div class="form-actions">
            <button class="main-action" type="submit">Add this item</button>
            <a class="quiet" routerLink="/pay-items">Cancel</a>
          </div>
        </form>
      } @else {
        <p class="muted">Fetching what items can be …</p>
      }
    </main>
  `,
  styles: 'main { max-width: 1000px; }',
})
export class PayItemNew {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly form = viewChild(ItemForm);
  protected readonly choices = this.store.selectSignal(itemChoicesStore.selectData);
  private readonly all = this.store.selectSignal(payItemsStore.selectData);
  protected readonly items = computed(() => this.all() ?? []);
  protected readonly problem = signal<ProblemDetail | null>(null);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (!employer()) return;
      this.store.dispatch(itemChoicesStore.load({ input: {}, keep: true }));
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    });
  }

  protected add(): void {
    const item = this.form()?.value();
    if (!item) return;
    this.api.call('addPayItem', { body: item }).subscribe({
      next: ({ id }) => void this.router.navigate(['/pay-items', id]),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
