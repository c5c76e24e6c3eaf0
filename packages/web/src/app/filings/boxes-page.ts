import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { BoxMap } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { saving } from '../kit/saving';
import { CountedPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { boxMapStore } from './filings.store';

type Item = BoxMap['filings'][number]['items'][number];

/** What is chosen for an item, as the chooser has it. */
const BY_TREATMENT = 'treatment';
const NONE = 'none';
const keyOf = (put: Item['put']): string => (put === null ? BY_TREATMENT : put.box ? `${put.filing} ${put.box}` : NONE);

/** Where each pay item stands on the year's statements; those that have no box come first, with what that would leave out. */
@Component({
  selector: 'wr-boxes-page',
  imports: [CountedPipe, FormsModule, MoneyPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Items and boxes, {{ year() }}</h1>
        @if (data()) {
          <span [class.attention]="open()" [class.muted]="!open()">{{
            open() ? (open() | counted: 'item has' : 'items have') + ' no box yet' : 'every item has its box, or is in none on purpose'
          }}</span>
        }
        <a class="quiet right" [routerLink]="['/filings/year', year()]">Year end {{ year() }}</a>
      </div>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @for (filing of data()?.filings; track filing.filing) {
        <section class="section">
          <h2>{{ filing.name }}</h2>
          <table class="lines">
            <tr>
              <th>Item</th>
              <th>Counts as</th>
              <th class="num">Posted in {{ year() }}</th>
              <th>By its treatment in</th>
              @if (offers(filing.items)) {
                <th>Put into</th>
              }
            </tr>
            @for (item of sorted(filing.items); track item.id) {
              <tr [class.on]="item.open">
                <td>
                  <a [routerLink]="['/pay-items', item.id]">{{ item.name }}</a>
                  @if (item.astray) {
                    <a class="attention astray" [routerLink]="['/pay-items', item.id]" fragment="counts"
                      >posted under another treatment, to be moved</a
                    >
                  }
                </td>
                <td class="muted">{{ item.treatment }}</td>
                <td class="num">
                  @if (item.posted) {
                    <a
                      [routerLink]="['/filings/year', year(), 'reconcile']"
                      [queryParams]="{ code: item.code }"
                      [attr.aria-label]="item.name + ', whose it is: ' + (item.posted | money)"
                      >{{ item.posted | money }}</a
                    >
                  } @else {
                    –
                  }
                </td>
                <td>
                  @for (box of item.boxes; track box.box) {
                    <span class="box" [title]="box.label + (box.lowers ? ', lowered by it' : '')"
                      >{{ box.lowers ? '−' : '' }}{{ box.box }}</span
                    >
                    @if (!offers(filing.items)) {
                      <span class="muted label">{{ box.label }}</span>
                    }
                  } @empty {
                    <span class="muted">{{ item.none ?? 'no box' }}</span>
                  }
                </td>
                @if (offers(filing.items)) {
                  <td>
                    @if (may()) {
                      <select
                        class="entry"
                        [class.plain]="!item.put"
                        [ngModel]="chosen(item)"
                        (ngModelChange)="choose(item, $event)"
                        [attr.aria-label]="'Box of ' + item.name"
                      >
                        <option value="treatment">
                          {{ item.open ? 'choose …' : item.boxes.length ? 'nothing else' : 'as its treatment says' }}
                        </option>
                        <option value="none">no box, on purpose</option>
                        @for (one of item.offered; track one.filing + one.box) {
                          <option [value]="one.filing + ' ' + one.box">{{ one.box }} {{ one.label }}</option>
                        }
                      </select>
                    } @else {
                      {{ item.put ? item.put.box || 'no box, on purpose' : '' }}
                    }
                    @if (item.put?.label && asking() !== item.id) {
                      <span class="muted">“{{ item.put?.label }}”</span>
                    }
                    @if (asking() === item.id) {
                      <form class="row-of" (ngSubmit)="save(item, pending, words)">
                        <input
                          class="entry"
                          name="words"
                          [(ngModel)]="words"
                          maxlength="40"
                          required
                          aria-label="Words beside the amount"
                          placeholder="words beside the amount"
                        />
                        <button class="quiet" type="submit">Put it there</button>
                        <button class="quiet" type="button" (click)="asking.set('')">Cancel</button>
                      </form>
                    }
                  </td>
                }
              </tr>
            } @empty {
              <tr>
                <td class="muted">Nothing was posted to anybody whom it states.</td>
              </tr>
            }
          </table>
        </section>
      } @empty {
        @if (!data() && !loadProblem()) {
          <p class="muted">Looking through the items …</p>
        }
      }
      @if (data()) {
        @if (choices()) {
          <p class="muted">A choice holds from {{ year() }} on, until a later year says otherwise. Figures of payslips stay as they are.</p>
        } @else {
          <p class="muted">
            Where an item stands goes by its tax treatment, each in one place. Another treatment counts from the next payslip on; what was
            paid stays as it was stated until it is moved from the item's own page, or its payslips are corrected.
          </p>
        }
      }
    </main>
  `,
  styles: `
    .label {
      margin-right: 8px;
    }
    .astray {
      display: block;
    }
    .box {
      border: 1px solid var(--rule);
      border-radius: 3px;
      padding: 0 5px;
      margin-right: 4px;
      white-space: nowrap;
    }
    select {
      height: 26px;
      padding: 0 6px;
      width: 250px;
      max-width: 100%;
    }
    tr:not(.on) select.plain {
      border-color: transparent;
    }
    td {
      vertical-align: top;
    }
  `,
})
export class BoxesPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly year = input.required<string>();
  protected readonly data = this.store.selectSignal(boxMapStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(boxMapStore.selectProblem);
  private readonly saving = saving(() => this.load(true));
  protected readonly problem = this.saving.problem;
  protected readonly may = this.store.selectSignal(selectMayPrepare);
  protected readonly open = computed(
    () =>
      this.data()
        ?.filings.flatMap(({ items }) => items)
        .filter((item) => item.open).length ?? 0,
  );
  /** Items can be put into boxes beside what their treatment does. */
  protected readonly choices = computed(() => this.data()?.filings.some(({ items }) => this.offers(items)) ?? false);
  /** The item whose box wants words. */
  protected readonly asking = signal('');
  protected pending = '';
  protected words = '';

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer() && this.year()) this.load(false);
    });
  }

  protected offers(items: readonly Item[]): boolean {
    return items.some(({ offered }) => offered.length > 0);
  }

  protected sorted(items: readonly Item[]): Item[] {
    return [...items].sort((a, b) => Number(b.open) - Number(a.open) || Number(b.astray) - Number(a.astray));
  }

  protected chosen(item: Item): string {
    return this.asking() === item.id ? this.pending : keyOf(item.put);
  }

  protected choose(item: Item, key: string): void {
    const box = item.offered.find((one) => `${one.filing} ${one.box}` === key);
    this.pending = key;
    this.words = item.put?.label ?? '';
    if (box?.words) this.asking.set(item.id);
    else this.save(item, key, '');
  }

  protected save(item: Item, key: string, label: string): void {
    const box = item.offered.find((one) => `${one.filing} ${one.box}` === key);
    const put = key === BY_TREATMENT ? null : { filing: box?.filing ?? '', box: box?.box ?? '', label };
    const body = { year: this.year(), items: [{ id: item.id, put }] };
    this.saving.save(this.api.call('setItemBoxes', { body }), () => this.asking.set(''));
  }

  private load(keep: boolean): void {
    this.store.dispatch(boxMapStore.load({ input: { query: { year: this.year() } }, keep }));
  }
}
