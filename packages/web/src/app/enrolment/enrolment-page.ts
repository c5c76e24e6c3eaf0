import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { EnrolmentPage, EnrolmentPerson, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { ACTS, EnrolmentAct, type Act } from './enrolment-act';
import { EnrolmentPersonView } from './enrolment-person';
import { enrolmentStore } from './enrolment.store';
import { SchemeForm } from './scheme-form';

const STATES: Readonly<Record<EnrolmentPerson['state'], string>> = {
  in: 'In a scheme',
  out: 'Not in a scheme',
  postponed: 'Postponed',
  'opted-out': 'Opted out',
  ceased: 'Ended',
  exempt: 'Exempt',
};
const SHOWN = 60;

/** Savings schemes that the law wants: what is to be done by when, everybody, schemes, and the round of enrolling again. */
@Component({
  selector: 'wr-enrolment-page',
  imports: [CountedPipe, DayPipe, EnrolmentAct, EnrolmentPersonView, FormsModule, MoneyPipe, Problem, RouterLink, SchemeForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>{{ page()?.law?.title ?? 'Savings schemes' }}</h1>
        <a class="quiet" routerLink="/people">People</a>
        @if (page()?.dutiesFrom; as since) {
          <span class="muted">Duties of the employer since {{ since | day }}</span>
        }
        <a class="quiet right" [href]="report()">Export report</a>
      </div>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (page(); as page) {
        @if (!page.law) {
          <p class="notice">The law of this employer’s country does not want people to be enrolled in a savings scheme.</p>
        } @else {
          @if (!page.dutiesFrom) {
            <p class="notice">
              No day is on file since which the duties hold, so nobody is assessed.
              <a routerLink="/employer" fragment="registrations">Enter it with the registrations</a>
            </p>
          }
          <section class="section first">
            <h2 class="row-of">
              To do
              <span class="muted small">{{ due().length ? (due().length | counted: 'person' : 'people') : 'nothing waits' }}</span>
            </h2>
            @if (due().length) {
              <table class="lines">
                <tr>
                  <th>
                    @if (mayPrepare()) {
                      <input type="checkbox" aria-label="Choose all" [checked]="chosen().size === due().length" (change)="chooseAll()" />
                    }
                  </th>
                  <th>Person</th>
                  <th>Assessed as</th>
                  <th class="num">Earnings</th>
                  <th>To be done</th>
                  <th class="num">By</th>
                </tr>
                @for (person of due(); track person.personId) {
                  <tr [class.error]="(person.duty?.by ?? '') < today()">
                    <td>
                      @if (mayPrepare()) {
                        <input
                          type="checkbox"
                          [attr.aria-label]="'Choose ' + person.name"
                          [checked]="chosen().has(person.personId)"
                          (change)="choose(person.personId)"
                        />
                      }
                    </td>
                    <td>
                      <button class="opens" type="button" (click)="toggle(person.personId)">{{ person.name }}</button>
                    </td>
                    <td>{{ person.assessed?.label }}</td>
                    <td class="num">{{ person.assessed?.earnings ?? 0 | money }}</td>
                    <td>{{ person.duty ? doWords(person.duty) : '' }}</td>
                    <td class="num when">{{ person.duty?.by ?? '' | day }}</td>
                  </tr>
                }
              </table>
              <p class="row-of acts">
                @if (mayPrepare()) {
                  @for (one of forMany; track one) {
                    <button class="quiet" type="button" [disabled]="!chosen().size" (click)="act.set(one)">{{ acts[one] }} …</button>
                  }
                }
                @for (letter of letters(); track letter.code) {
                  <a class="quiet" [href]="api.url('enrolmentLetters', { query: { letter: letter.code } })" target="_blank"
                    >{{ letter.people | counted: 'letter' : 'letters' }}, PDF: {{ letter.label }}</a
                  >
                }
              </p>
              @if (act(); as one) {
                <wr-enrolment-act
                  [page]="page"
                  [people]="chosenPeople()"
                  [act]="one"
                  [today]="today()"
                  (saved)="done()"
                  (left)="act.set(null)"
                />
              }
            }
          </section>
          <section class="section">
            <h2 class="row-of">
              Everybody
              <span class="small filters">
                <select aria-label="Status" [ngModel]="state()" (ngModelChange)="state.set($event)">
                  <option value="">every status</option>
                  @for (one of states; track one[0]) {
                    <option [value]="one[0]">{{ one[1] }}: {{ numberOf(one[0]) }}</option>
                  }
                </select>
                <input
                  class="entry"
                  type="search"
                  placeholder="Find somebody"
                  aria-label="Find somebody"
                  [ngModel]="text()"
                  (ngModelChange)="text.set($event)"
                />
              </span>
            </h2>
            <table class="lines">
              <tr>
                <th>Person</th>
                <th>Department</th>
                <th>Assessed as</th>
                <th class="num">Earnings</th>
                <th>Status</th>
              </tr>
              @for (person of shown(); track person.personId) {
                <tr>
                  <td>
                    <button class="opens" type="button" [attr.aria-expanded]="open() === person.personId" (click)="toggle(person.personId)">
                      {{ person.name }}
                    </button>
                  </td>
                  <td class="muted">{{ person.department }}</td>
                  <td>{{ person.assessed?.label ?? 'not paid yet' }}</td>
                  <td class="num">{{ person.assessed?.earnings ?? 0 | money }}</td>
                  <td [class.attention]="person.duty">{{ person.standing }}</td>
                </tr>
                @if (open() === person.personId) {
                  <tr>
                    <td colspan="5">
                      <wr-enrolment-person [page]="page" [person]="person" [mayPrepare]="mayPrepare()" [today]="today()" (saved)="done()" />
                    </td>
                  </tr>
                }
              } @empty {
                <tr>
                  <td colspan="5" class="muted">{{ page.people.length ? 'Nobody like that.' : 'Nobody is on file yet.' }}</td>
                </tr>
              }
            </table>
            @if (found().length > shown().length) {
              <button class="quiet" type="button" (click)="all.set(true)">Show all {{ found().length }}</button>
            }
          </section>
          <section class="section">
            <h2 class="row-of">
              Schemes
              @if (mayPrepare() && form() !== 'new') {
                <button class="quiet small" type="button" (click)="form.set('new')">Add a scheme</button>
              }
            </h2>
            @if (form() === 'new') {
              <wr-scheme-form [fields]="page.law.fields" (saved)="done()" (left)="form.set('')" />
            }
            @for (scheme of page.schemes; track scheme.id) {
              <p class="row-of">
                <strong>{{ scheme.name }}</strong>
                <span>{{ scheme.provider }}{{ scheme.reference ? ', ' + scheme.reference : '' }}</span>
                <span class="muted">{{ madeOf(scheme) }}; {{ scheme.members | counted: 'member' : 'members' }}</span>
                @if (mayPrepare()) {
                  <button class="quiet" type="button" (click)="form.set(scheme.id)" [attr.aria-label]="'Change ' + scheme.name">
                    Change
                  </button>
                }
                <span>
                  Contributions paid
                  <input class="entry date" type="date" aria-label="First pay date" [ngModel]="from()" (ngModelChange)="from.set($event)" />
                  to
                  <input class="entry date" type="date" aria-label="Last pay date" [ngModel]="to()" (ngModelChange)="to.set($event)" />
                  <a
                    class="quiet"
                    [href]="api.url('contributionsFile', { path: { id: scheme.id }, query: { from: from(), to: to() } })"
                    [attr.aria-label]="'Contributions to ' + scheme.name + ' as CSV'"
                    >CSV</a
                  >
                </span>
              </p>
              @if (form() === scheme.id) {
                <wr-scheme-form [scheme]="scheme" (saved)="done()" (left)="form.set('')" />
              }
            } @empty {
              @if (form() !== 'new') {
                <p class="notice">No scheme yet. Add the one that people are enrolled into; its pay items come with it.</p>
              }
            }
          </section>
          @if (page.round; as round) {
            <section class="section pair">
              <div>
                <h2>Enrolling again</h2>
                <p>
                  Who opted out or ended the membership is assessed again on a day from {{ round.from | day }} to {{ round.to | day }},
                  around the third anniversary on {{ round.anniversary | day }}.
                </p>
                <p class="row-of">
                  <span>{{ round.chosen ? 'Chosen:' : 'Not chosen yet.' }} {{ round.chosen ?? '' | day }}</span>
                  @if (mayPrepare()) {
                    <input
                      class="entry date"
                      type="date"
                      aria-label="Day of enrolling again"
                      [min]="round.from"
                      [max]="round.to"
                      [ngModel]="roundDay()"
                      (ngModelChange)="roundDay.set($event)"
                    />
                    <button class="quiet" type="button" [disabled]="!roundDay()" (click)="chooseDay(roundDay())">Choose the day</button>
                  }
                </p>
              </div>
              @if (page.declaration; as declaration) {
                <div>
                  <h2>Declaration, by {{ declaration.by | day }}</h2>
                  <table class="lines">
                    @for (row of declaration.rows; track row.label) {
                      <tr>
                        <td>{{ row.label }}</td>
                        <td class="num">{{ row.people }}</td>
                      </tr>
                    }
                  </table>
                </div>
              }
            </section>
          }
        }
      } @else if (!loadProblem()) {
        <p class="muted">Fetching who is enrolled …</p>
      }
    </main>
  `,
  styles: `
    .first {
      margin-top: 8px;
    }
    .small {
      font:
        400 14px 'Source Sans 3 Variable',
        sans-serif;
    }
    .filters {
      margin-left: auto;
      display: flex;
      gap: 12px;
    }
    .entry {
      display: inline-block;
      width: 150px;
      margin: 0;
      font-size: 14px;
      padding: 1px 7px;
    }
    .acts {
      margin: 10px 0;
    }
    .pair {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 40px;
    }
    .pair h2 {
      font-size: 18px;
      border-bottom: 1px solid var(--ink);
      padding-bottom: 4px;
      margin-bottom: 6px;
    }
  `,
})
export class EnrolmentPageView {
  private readonly store = inject(Store);
  protected readonly api = inject(Api);
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.session()?.today ?? '');
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly page = this.store.selectSignal(enrolmentStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(enrolmentStore.selectProblem);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly acts = ACTS;
  protected readonly forMany: readonly Act[] = ['enrolled', 'postponed', 'exempt', 'letter'];
  protected readonly states = Object.entries(STATES);
  protected readonly act = signal<Act | null>(null);
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  /** From the address: whose part stands open. */
  readonly person = input('', { transform: (value: string | undefined) => value ?? '' });
  protected readonly open = linkedSignal(() => this.person());
  protected readonly form = signal('');
  protected readonly text = signal('');
  protected readonly state = signal('');
  protected readonly all = signal(false);
  protected readonly from = signal('');
  protected readonly to = signal('');
  protected readonly roundDay = signal('');
  protected readonly due = computed(() =>
    (this.page()?.people ?? [])
      .filter(({ duty }) => duty !== null)
      .sort((a, b) => (a.duty?.by ?? '').localeCompare(b.duty?.by ?? '') || a.name.localeCompare(b.name)),
  );
  protected readonly chosenPeople = computed(() => this.due().filter(({ personId }) => this.chosen().has(personId)));
  /** Letters that wait, with how many people each is for. */
  protected readonly letters = computed(() =>
    (this.page()?.law?.letters ?? [])
      .map((letter) => ({ ...letter, people: this.due().filter(({ duty }) => duty?.letter === letter.code).length }))
      .filter(({ people }) => people),
  );
  protected readonly found = computed(() => {
    const wanted = this.text().toLowerCase();
    return (this.page()?.people ?? []).filter(
      (person) => (!this.state() || person.state === this.state()) && `${person.name} ${person.department}`.toLowerCase().includes(wanted),
    );
  });
  protected readonly shown = computed(() => (this.all() ? this.found() : this.found().slice(0, SHOWN)));
  protected readonly report = computed(() => this.api.url('enrolmentReport', { query: this.state() ? { state: this.state() } : {} }));

  constructor() {
    effect(() => {
      const today = this.today();
      if (!today) return;
      this.store.dispatch(enrolmentStore.load({ input: {} }));
      this.from.set(`${today.slice(0, 8)}01`);
      this.to.set(today);
    });
  }

  protected doWords({ what, letter, sentence }: NonNullable<EnrolmentPerson['duty']>): string {
    if (what === 'letter') return `Letter: ${this.page()?.law?.letters.find(({ code }) => code === letter)?.label ?? sentence}`;
    return what === 'enrol' ? 'Enrol, postpone or exempt' : 'Enrol again';
  }

  protected numberOf(state: string): number {
    return (this.page()?.people ?? []).filter((person) => person.state === state).length;
  }

  /** As the choices say it: what contributions are of, and how they are taxed. */
  protected madeOf({ choices, tiers }: EnrolmentPage['schemes'][number]): string {
    const made = (this.page()?.law?.fields ?? []).flatMap(({ key, choices: of }) => {
      const value = choices[key];
      return value ? [of.find((one) => one.value === value)?.label ?? value] : [];
    });
    return [...made, ...tiers.map(({ label, employee, employer }) => `${label} ${employee} % own, ${employer} % employer`)].join(', ');
  }

  protected choose(id: string): void {
    const chosen = new Set(this.chosen());
    if (!chosen.delete(id)) chosen.add(id);
    this.chosen.set(chosen);
  }

  protected chooseAll(): void {
    this.chosen.set(this.chosen().size === this.due().length ? new Set() : new Set(this.due().map(({ personId }) => personId)));
  }

  protected toggle(id: string): void {
    this.open.set(this.open() === id ? '' : id);
  }

  protected chooseDay(on: string): void {
    this.problem.set(null);
    this.api.call('chooseRound', { body: { on } }).subscribe({
      next: () => this.done(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected done(): void {
    this.act.set(null);
    this.form.set('');
    this.chosen.set(new Set());
    this.store.dispatch(enrolmentStore.load({ input: {}, keep: true }));
  }
}
