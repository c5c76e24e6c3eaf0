import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { YearPlan, YearStep } from '@woodruff/contract';
import { Api } from '../api/api';
import { fragmentOf, partsOf } from '../kit/address';
import { Problem } from '../kit/problem';
import { saving } from '../kit/saving';
import { CountedPipe, DayPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { ASKS, STATES } from './filing-words';
import { yearStore } from './filings.store';

const HOW: Record<YearStep['state'], string> = { done: 'done', open: 'open', late: 'late', later: 'later' };

/** The end of a tax year as a plan with its days, what is to be fixed, and what the next year asks for. */
@Component({
  selector: 'wr-year-page',
  imports: [CountedPipe, DayPipe, FormsModule, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      @if (data(); as plan) {
        <div class="title-line">
          <h1>Year end {{ plan.year }}</h1>
          <span [class.attention]="plan.year !== plan.current" [class.muted]="plan.year === plan.current">
            {{ plan.year === plan.current ? 'the year that runs' : 'a past year: you are in ' + plan.current }}
          </span>
          @for (other of others(); track other) {
            <a class="quiet" [routerLink]="['/filings/year', other]">{{ other }}</a>
          }
          <a class="quiet right" [routerLink]="['/filings/year', plan.year, 'reconcile']">Reconciliation</a>
          <a class="quiet" [routerLink]="['/filings/year', plan.year, 'boxes']">Items and boxes</a>
          <a class="quiet" routerLink="/filings/tables">Tables</a>
          <a class="quiet" routerLink="/filings">Returns</a>
        </div>
        <wr-problem [problem]="problem() ?? loadProblem()" />
        <p class="muted">
          {{ left() ? (left() | counted: 'step is' : 'steps are') + ' open now' : 'Nothing is open now' }}, {{ done() }} of
          {{ plan.steps.length }} are done. The first run of the new year waits for none of them.
        </p>
        <div class="columns">
          <section class="section">
            <h2 class="with-switch">
              The plan
              <button class="quiet" type="button" (click)="all.set(!all())">
                {{ all() ? 'Only what is left' : done() + ' done' }}
              </button>
            </h2>
            <table class="lines">
              @for (step of shown(); track step.code) {
                <tr [class.muted]="step.state === 'done' || step.state === 'later'">
                  <td class="when">{{ step.date ? (step.date | day: 'short') : '' }}</td>
                  <td>
                    @if (step.link; as link) {
                      <a [routerLink]="path(link)" [fragment]="fragment(link)">{{ step.what }}</a>
                    } @else {
                      {{ step.what }}
                    }
                    @if (step.how || step.byHand) {
                      <div class="how">
                        {{ step.how }}
                        @if (step.byHand; as said) {
                          Done by {{ said.who }} on {{ said.on | day: 'short' }}{{ said.note ? ': ' + said.note : '' }}.
                        }
                      </div>
                    }
                    @if (saying() === step.code) {
                      <form class="row-of" (ngSubmit)="say(step, true)">
                        <input class="entry" name="note" [(ngModel)]="note" placeholder="How, if you like" aria-label="How it was done" />
                        <button class="quiet" type="submit">It is done</button>
                        <button class="quiet" type="button" (click)="saying.set('')">Cancel</button>
                      </form>
                    }
                  </td>
                  <td class="state" [class.attention]="step.state === 'open'" [class.error]="step.state === 'late'">
                    {{ how[step.state] }}
                    @if (step.canBeSaid && may() && saying() !== step.code) {
                      @if (step.byHand) {
                        <button class="quiet" type="button" (click)="say(step, false)">Not after all</button>
                      } @else {
                        <button class="quiet" type="button" (click)="begin(step)" [attr.aria-label]="step.what + ': done …'">Done …</button>
                      }
                    }
                  </td>
                </tr>
              }
            </table>
          </section>
          <div>
            <section class="section">
              <h2>
                To fix <span class="muted">{{ plan.toFix.length || '' }}</span>
              </h2>
              @for (one of shownToFix(); track $index) {
                <p>
                  <span [class.error]="one.weight === 'stop'">◇</span> {{ one.sentence }}
                  <a [routerLink]="path(one.link)" [fragment]="fragment(one.link)">{{ one.who ? 'Go to the person' : 'Enter it' }}</a>
                </p>
              } @empty {
                <p class="muted">Every fact that statements and returns need is there.</p>
              }
              @if (plan.toFix.length > shownToFix().length) {
                <button class="quiet" type="button" (click)="allToFix.set(true)">All {{ plan.toFix.length }}</button>
              }
            </section>
            <section class="section">
              <h2>What the next year asks for</h2>
              @for (point of plan.ahead; track point.code) {
                <p [class.muted]="point.done">
                  {{ point.done ? '' : '◇ ' }}{{ point.sentence }}
                  <a [routerLink]="path(point.link)" [fragment]="fragment(point.link)">{{ point.done ? 'Look' : 'Go there' }}</a>
                  @for (one of point.people; track one.personId) {
                    <a class="quiet" [routerLink]="['/people', one.personId]">{{ one.name }}</a>
                  }
                  <span class="muted source">{{ point.source }}</span>
                </p>
              }
              @for (one of plan.ending; track one.sentence) {
                <p>
                  <a [routerLink]="path(one.link)">{{ one.sentence }}</a>
                </p>
              }
              <p class="muted">Wage bases, limits, balances of the year and leave that is carried over begin anew by themselves.</p>
            </section>
            <section class="section">
              <h2>Filings of {{ plan.year }}</h2>
              <table class="lines">
                @for (filing of plan.filings; track filing.title) {
                  <tr>
                    <td>
                      <a [routerLink]="['/filings', filing.filing, filing.period]">{{ filing.title }}</a>
                    </td>
                    <td [class.attention]="asks.includes($any(filing.state))">
                      {{ states[$any(filing.state)] }}{{ filing.attempts > 1 ? ', attempt ' + filing.attempts : '' }}
                    </td>
                    <td class="num muted">{{ filing.given ? filing.given.given + ' of ' + filing.given.of + ' given' : '' }}</td>
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">Nothing is filed for this year.</td>
                  </tr>
                }
              </table>
            </section>
          </div>
        </div>
      } @else {
        <wr-problem [problem]="loadProblem()" />
        @if (!loadProblem()) {
          <p class="muted">Looking through the year …</p>
        }
      }
    </main>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 3fr) minmax(320px, 2fr);
      gap: 36px;
    }
    .columns > .section,
    .columns > div > .section:first-child {
      margin-top: 14px;
    }
    .with-switch {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
    }
    .when {
      white-space: nowrap;
      width: 96px;
    }
    .state {
      text-align: right;
      white-space: nowrap;
    }
    .how,
    .source {
      font-size: 13px;
    }
    .source {
      display: block;
    }
    section p {
      margin: 6px 0;
    }
    form {
      margin: 4px 0;
    }
  `,
})
export class YearPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly year = input.required<string>();
  protected readonly data = this.store.selectSignal(yearStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(yearStore.selectProblem);
  private readonly saving = saving(() => this.load(true));
  protected readonly problem = this.saving.problem;
  protected readonly may = this.store.selectSignal(selectMayPrepare);
  protected readonly saying = signal('');
  protected readonly allToFix = signal(false);
  /** What is done is shown, too. */
  protected readonly all = signal(false);
  protected readonly shown = computed(
    () => this.data()?.steps.filter(({ state, byHand }) => this.all() || state !== 'done' || byHand) ?? [],
  );
  protected readonly done = computed(() => this.data()?.steps.filter(({ state }) => state === 'done').length ?? 0);
  protected readonly others = computed(() => this.data()?.years.filter((one) => one !== this.data()?.year) ?? []);
  protected readonly left = computed(() => this.data()?.steps.filter(({ state }) => state === 'open' || state === 'late').length ?? 0);
  /** What stops a statement comes first. */
  protected readonly shownToFix = computed<YearPlan['toFix']>(() => {
    const all = [...(this.data()?.toFix ?? [])].sort((a, b) => (a.weight === b.weight ? 0 : a.weight === 'stop' ? -1 : 1));
    return this.allToFix() ? all : all.slice(0, 8);
  });
  protected readonly how = HOW;
  protected readonly states: Record<string, string> = STATES;
  protected readonly asks = ASKS;
  protected readonly path = partsOf;
  protected readonly fragment = fragmentOf;
  protected note = '';

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()?.today && this.year()) this.load(false);
    });
  }

  protected begin({ code }: YearStep): void {
    this.note = '';
    this.saying.set(code);
  }

  protected say({ code }: YearStep, done: boolean): void {
    const call = { path: { year: this.year(), step: code }, body: { done, note: done ? this.note : '' } };
    this.saving.save(this.api.call('sayYearStep', call), () => this.saying.set(''));
  }

  private load(keep: boolean): void {
    this.store.dispatch(yearStore.load({ input: { path: { year: this.year() } }, keep }));
  }
}
