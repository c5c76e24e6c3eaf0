import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Statement } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { panelOfPage } from '../working/page-with-panel';
import { workingActions } from '../working/working.store';
import { WorkingPanel } from '../working/working-panel';
import { yearEndStore } from './returns.store';

/** Wage statements of a year: boxes by person, what must be fixed before they are given out, draft prints. */
@Component({
  selector: 'wr-year-end',
  imports: [CountedPipe, MoneyPipe, Problem, RouterLink, WorkingPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-problem [problem]="problem()" />
      @if (data(); as data) {
        <div class="title-line">
          <h1>Wage statements for {{ data.year }}</h1>
          <span class="muted"
            >Form {{ data.form }}, {{ data.statements.length | counted: 'person' : 'people' }},
            {{ open() ? open() + ' to fix' : 'nothing to fix' }}</span
          >
          <a class="main-action" [href]="pdf()">Draft print of all (PDF)</a>
        </div>
        <p class="row-of">
          <button type="button" class="quiet" [class.on]="!onlyOpen()" (click)="onlyOpen.set(false)">Everyone</button>
          <button type="button" class="quiet" [class.on]="onlyOpen()" (click)="onlyOpen.set(true)">To fix {{ open() }}</button>
          <a class="quiet right" [href]="csv()">All boxes as CSV</a>
        </p>
        <table class="lines">
          <thead>
            <tr>
              <th>Person</th>
              <th>Number</th>
              @for (box of main; track box) {
                <th class="num">Box {{ box }}</th>
              }
              <th class="num">Others</th>
              <th></th>
            </tr>
          </thead>
          @for (statement of shown(); track statement.personId) {
            <tr [class.on]="chosen() === statement.personId">
              <td>
                <button class="opens" type="button" (click)="choose(statement)" [attr.aria-expanded]="chosen() === statement.personId">
                  {{ statement.name }}
                </button>
              </td>
              <td [class.attention]="!statement.number">{{ statement.number ?? 'missing' }}</td>
              @for (box of main; track box) {
                <td class="num">
                  <button class="opens" type="button" (click)="openBox(statement, box)">
                    {{ amount(statement, box) | money: 'dash' }}
                  </button>
                </td>
              }
              <td class="num muted">{{ statement.boxes.length - main.length }}</td>
              <td class="num">
                @if (statement.checks.length) {
                  <span class="attention">◇ {{ statement.checks.length }}</span>
                }
              </td>
            </tr>
            @if (chosen() === statement.personId) {
              <tr>
                <td colspan="10" class="more">
                  @for (check of statement.checks; track check.code) {
                    <p class="notice">{{ check.sentence }} <a [routerLink]="['/people', statement.personId]">Go to the person</a></p>
                  }
                  <div class="boxes">
                    @for (box of statement.boxes; track box.box) {
                      <span class="muted">{{ box.box }}</span><span>{{ box.label }}</span
                      ><span class="num"
                        ><button class="opens" type="button" (click)="openBox(statement, box.box)">{{ box.amount | money }}</button></span
                      >
                    }
                  </div>
                  <a class="quiet" [href]="pdfOf(statement.personId)">Draft print (PDF)</a>
                </td>
              </tr>
            }
          } @empty {
            <tr>
              <td class="muted" colspan="10">{{ onlyOpen() ? 'Nothing is left to fix.' : 'Nobody was paid in this year.' }}</td>
            </tr>
          }
        </table>
        <section class="section">
          <h2>Tied to the ledger</h2>
          @for (tie of data.tied; track tie.sentence) {
            <p [class.error]="!tie.holds">{{ tie.holds ? 'Agrees' : 'Does not agree' }}: {{ tie.sentence }}.</p>
          }
          <p class="muted">{{ data.source }}.</p>
        </section>
      } @else if (!problem()) {
        <p class="muted">Adding up the year …</p>
      }
    </main>
    @if (frame()) {
      <aside aria-label="Working"><wr-working-panel /></aside>
    }
  `,
  styleUrl: '../kit/page-with-panel.scss',
  styles: `
    a.main-action {
      text-decoration: none;
    }
    .boxes {
      display: grid;
      grid-template-columns: 80px minmax(0, 360px) 120px;
      gap: 3px 14px;
      margin: 6px 0 12px;
    }
    td.more {
      background: var(--sheet);
      padding: 10px 16px;
    }
    section p {
      margin: 4px 0;
    }
  `,
})
export class YearEndPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly year = input.required<string>();
  protected readonly main = ['1', '2', '3', '4', '5', '6'];
  protected readonly data = this.store.selectSignal(yearEndStore.selectData);
  protected readonly problem = this.store.selectSignal(yearEndStore.selectProblem);
  protected readonly frame = panelOfPage();
  protected readonly onlyOpen = signal(false);
  protected readonly chosen = signal('');
  protected readonly open = computed(() => this.data()?.statements.filter((statement) => statement.checks.length).length ?? 0);
  protected readonly shown = computed(
    () => this.data()?.statements.filter((statement) => !this.onlyOpen() || statement.checks.length) ?? [],
  );
  protected readonly pdf = computed(() => this.api.url('statementsPdf', { path: { year: this.year() } }));
  protected readonly csv = computed(() => this.api.url('statementsCsv', { path: { year: this.year() } }));

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()) this.store.dispatch(yearEndStore.load({ input: { path: { year: this.year() } } }));
    });
  }

  protected amount(statement: Statement, box: string): number {
    return statement.boxes.find((candidate) => candidate.box === box)?.amount ?? 0;
  }

  protected choose(statement: Statement): void {
    this.chosen.update((id) => (id === statement.personId ? '' : statement.personId));
  }

  protected openBox(statement: Statement, name: string): void {
    const box = statement.boxes.find((candidate) => candidate.box === name);
    if (!box) return;
    this.store.dispatch(
      workingActions.open({
        frame: {
          kind: 'behind',
          title: `Box ${box.box}, ${statement.name}`,
          note: box.label,
          codes: box.codes,
          from: `${this.year()}-01-01`,
          to: `${this.year()}-12-31`,
          person: statement.personId,
        },
        anew: true,
      }),
    );
  }

  protected pdfOf(person: string): string {
    return this.api.url('statementsPdf', { path: { year: this.year() }, query: { person } });
  }
}
