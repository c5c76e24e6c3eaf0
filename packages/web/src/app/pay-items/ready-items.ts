import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail, ReadyItem } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { selectEmployer } from '../session/session.store';
import { limitWords, methodWords } from './pay-item-words';
import { itemChoicesStore, readyItemsStore } from './pay-items.store';

/** Standard items of the country, set up with treatment, order and accounts: an employer takes what it needs. */
@Component({
  selector: 'wr-ready-items',
  imports: [Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Standard items</h1>
        <span class="muted">Each comes with its tax treatment, order and accounts; all of it can be changed afterwards</span>
        <button class="main-action" type="button" [disabled]="!chosen().length || taking()" (click)="take()">
          {{ chosen().length ? 'Take ' + chosen().length + (chosen().length === 1 ? ' item' : ' items') : 'Select what you need' }}
        </button>
      </div>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @for (group of groups(); track group.name) {
        <section class="section">
          <h2>
            {{ group.name }}
            @if (group.free.length) {
              <button type="button" class="quiet" (click)="tickAll(group.free)">{{ group.allChosen ? 'Tick none' : 'Select all' }}</button>
            }
          </h2>
          <table class="lines">
            <colgroup>
              <col style="width: 34px" />
              <col style="width: 28%" />
              <col style="width: 32%" />
              <col />
              <col style="width: 110px" />
            </colgroup>
            @for (entry of group.entries; track entry.item.code) {
              <tr [class.taken]="entry.taken">
                <td>
                  @if (!entry.taken) {
                    <input
                      type="checkbox"
                      [id]="'take-' + entry.item.code"
                      [checked]="isChosen(entry.item.code)"
                      (change)="tick(entry.item.code)"
                    />
                  }
                </td>
                <td>
                  <label [for]="'take-' + entry.item.code">{{ entry.item.name }}</label>
                </td>
                <td>{{ words(entry) }}</td>
                <td class="muted">{{ treatment(entry.item.treatment) }}</td>
                <td class="num muted">{{ entry.taken ? 'added' : '' }}</td>
              </tr>
            }
          </table>
        </section>
      } @empty {
        @if (!loadProblem()) {
          <p class="muted">Fetching the items …</p>
        }
      }
      <p class="muted"><a routerLink="/pay-items">Back to the pay items</a></p>
    </main>
  `,
  styles: `
    .section > h2 {
      display: flex;
      align-items: baseline;
    }
    .section > h2 .quiet {
      font:
        400 14px 'Source Sans 3 Variable',
        sans-serif;
      margin-left: auto;
    }
    .taken td {
      color: var(--ink2);
    }
  `,
})
export class ReadyItems {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly ready = this.store.selectSignal(readyItemsStore.selectData);
  private readonly choices = this.store.selectSignal(itemChoicesStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(readyItemsStore.selectProblem);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly taking = signal(false);
  protected readonly chosen = signal<readonly string[]>([]);
  protected readonly groups = computed(() => {
    const ready = this.ready() ?? [];
    return [...new Set(ready.map((entry) => entry.group))].map((name) => {
      const entries = ready.filter((entry) => entry.group === name);
      const free = entries.filter((entry) => !entry.taken).map((entry) => entry.item.code);
      return { name, entries, free, allChosen: free.every((code) => this.chosen().includes(code)) };
    });
  });

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (!employer()) return;
      this.store.dispatch(readyItemsStore.load({ input: {} }));
      this.store.dispatch(itemChoicesStore.load({ input: {}, keep: true }));
    });
  }

  protected isChosen(code: string): boolean {
    return this.chosen().includes(code);
  }

  protected tick(code: string): void {
    this.chosen.update((chosen) => (chosen.includes(code) ? chosen.filter((other) => other !== code) : [...chosen, code]));
  }

  protected tickAll(codes: readonly string[]): void {
    const all = codes.every((code) => this.chosen().includes(code));
    this.chosen.update((chosen) => [...chosen.filter((code) => !codes.includes(code)), ...(all ? [] : codes)]);
  }

  protected words({ item }: ReadyItem): string {
    return [methodWords(item), limitWords(item)].filter(Boolean).join('; at most ');
  }

  protected treatment(code: string): string {
    return this.choices()?.treatments.find((treatment) => treatment.code === code)?.label ?? '';
  }

  protected take(): void {
    this.taking.set(true);
    this.api.call('takeReadyItems', { body: { codes: [...this.chosen()] } }).subscribe({
      next: () => void this.router.navigateByUrl('/pay-items'),
      error: (error: unknown) => {
        this.taking.set(false);
        this.problem.set(problemOf(error));
      },
    });
  }
}
