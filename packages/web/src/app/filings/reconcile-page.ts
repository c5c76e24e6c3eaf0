import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { YearReconciled } from '@woodruff/contract';
import { Problem } from '../kit/problem';
import { CountedPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { reconciledStore } from './filings.store';

type Code = YearReconciled['codes'][number];

/** A tax year's register by pay item beside the ledger, each difference with its cause, and the people behind each item. */
@Component({
  selector: 'wr-reconcile-page',
  imports: [CountedPipe, MoneyPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Reconciliation, {{ year() }}</h1>
        @if (data()) {
          <span [class.attention]="unexplained()" [class.muted]="!unexplained()">{{
            unexplained()
              ? (unexplained() | counted: 'item differs' : 'items differ') + ' by what nothing explains'
              : 'the register and the ledger agree'
          }}</span>
        }
        <a class="quiet right" [routerLink]="['/filings/year', year()]">Year end {{ year() }}</a>
      </div>
      <wr-problem [problem]="loadProblem()" />
      @if (data()) {
        <p class="muted">
          What payslips of the year say, item by item, and the ledger that statements are made from. They differ by what was carried in from
          before this system or changed by hand without payment.
        </p>
        <p class="row-of">
          <label class="check"
            ><input type="checkbox" [checked]="onlyDiffering()" (change)="onlyDiffering.set($any($event.target).checked)" /> Only what
            differs</label
          >
        </p>
        <table class="lines">
          <tr>
            <th>Item</th>
            <th class="num">By the register</th>
            <th class="num">Carried in</th>
            <th class="num">Changed by hand</th>
            <th class="num">By the ledger</th>
            <th class="num">Not explained</th>
          </tr>
          @for (one of shown(); track one.code) {
            <tr [class.on]="opened() === one.code" [class.attention]="one.unexplained">
              <td>
                <button class="opens" type="button" [attr.aria-expanded]="opened() === one.code" (click)="toggle(one)">
                  {{ one.label }}
                </button>
                &ngsp;
                @if (one.kind === 'leave' || one.kind === 'base') {
                  <span class="muted">{{ one.kind === 'leave' ? 'hours' : 'as counted' }}</span>
                }
              </td>
              <td class="num">{{ one.register | money: 'dash' }}</td>
              <td class="num">{{ one.opening | money: 'dash' }}</td>
              <td class="num">{{ one.adjusted | money: 'dash' }}</td>
              <td class="num">{{ one.ledger | money: 'dash' }}</td>
              <td class="num">{{ one.unexplained | money: 'dash' }}</td>
            </tr>
            @if (opened() === one.code) {
              @for (person of data()?.people; track person.personId) {
                <tr class="of-person">
                  <td>
                    <a [routerLink]="['/people', person.personId]">{{ person.name }}</a>
                  </td>
                  <td class="num">{{ person.register | money: 'dash' }}</td>
                  <td class="num">{{ person.opening | money: 'dash' }}</td>
                  <td class="num">{{ person.adjusted | money: 'dash' }}</td>
                  <td class="num">{{ person.ledger | money: 'dash' }}</td>
                  <td class="num">{{ person.unexplained | money: 'dash' }}</td>
                </tr>
              }
            }
          } @empty {
            <tr>
              <td class="muted" colspan="6">{{ onlyDiffering() ? 'Nothing differs.' : 'Nothing was posted in this tax year.' }}</td>
            </tr>
          }
        </table>
      } @else if (!loadProblem()) {
        <p class="muted">Adding up the year …</p>
      }
    </main>
  `,
  styles: `
    .of-person td:first-child {
      padding-left: 24px;
    }
  `,
})
export class ReconcilePage {
  private readonly store = inject(Store);
  readonly year = input.required<string>();
  protected readonly data = this.store.selectSignal(reconciledStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(reconciledStore.selectProblem);
  /** Whose people are shown to begin with. */
  readonly code = input<string>();
  /** The code whose people are shown. */
  protected readonly opened = linkedSignal(() => this.code() ?? '');
  protected readonly onlyDiffering = signal(false);
  protected readonly shown = computed(() =>
    (this.data()?.codes ?? []).filter((one) => !this.onlyDiffering() || one.opening || one.adjusted || one.unexplained),
  );
  protected readonly unexplained = computed(() => this.data()?.codes.filter((one) => one.unexplained).length ?? 0);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer() && this.year()) this.load(this.opened());
    });
  }

  protected toggle({ code }: Code): void {
    this.opened.update((open) => (open === code ? '' : code));
  }

  private load(code: string): void {
    this.store.dispatch(reconciledStore.load({ input: { path: { year: this.year() }, query: code ? { code } : {} }, keep: true }));
  }
}
