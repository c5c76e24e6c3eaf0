import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail } from '@woodruff/contract';
import { addDays } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, PeriodPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { clockStore } from './time.store';

/** The time clock at the door, as a stand-in: somebody types a code and comes or goes; or it records a whole period by itself. */
@Component({
  selector: 'wr-clock-page',
  imports: [CountedPipe, DayPipe, FormsModule, PeriodPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Time clock</h1>
        <a class="quiet" routerLink="/time">Time</a>
        <span class="muted">A stand-in for the device at the door. It makes punches, forgets some, and doubles some.</span>
      </div>
      @if (clock(); as clock) {
        <div class="two">
          <form class="device" (ngSubmit)="(false)">
            <label class="field">Code on the badge <input name="code" [(ngModel)]="code" autocomplete="off" /></label>
            <label class="field">At <input name="at" type="time" [(ngModel)]="at" /></label>
            <div class="row-of">
              <button class="main-action" type="button" [disabled]="!mayPrepare()" (click)="press('in')">In</button>
              <button class="main-action" type="button" [disabled]="!mayPrepare()" (click)="press('out')">Out</button>
            </div>
            @if (said()) {
              <p role="status">{{ said() }}</p>
            }
            <wr-problem [problem]="problem()" />
          </form>
          <section>
            <p>
              In {{ clock | period }}: {{ clock.inPeriod.punches }} punches of {{ clock.inPeriod.people | counted: 'person' : 'people' }}.
              @if (mayPrepare()) {
                <button class="quiet" type="button" (click)="simulate(clock.scheduleId, clock.from)">Let it record the whole period</button>
              }
            </p>
            <div class="row-of">
              <button class="quiet" type="button" (click)="go(-1)">Day before</button>
              <strong>{{ clock.date | day }}</strong>
              <button class="quiet" type="button" (click)="go(1)">Day after</button>
            </div>
            <table class="lines">
              @for (punch of clock.punches; track punch.id) {
                <tr>
                  <td class="when">{{ punch.at.slice(11) }}</td>
                  <td class="what">{{ punch.kind === 'in' ? 'came' : 'went' }}</td>
                  <td>
                    {{ punch.name }} <span class="muted">{{ punch.code }}</span>
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">No punch on this day.</td>
                </tr>
              }
            </table>
          </section>
        </div>
      } @else if (!loadProblem()) {
        <p class="muted">Fetching the punches …</p>
      }
      <wr-problem [problem]="loadProblem()" />
    </main>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: 300px minmax(0, 1fr);
      gap: 0 40px;
      max-width: 1000px;
    }
    .device {
      background: var(--sheet);
      border: 1px solid var(--rule);
      border-radius: 3px;
      padding: 18px;
      align-self: start;
      display: grid;
      gap: 12px;
    }
    .device input {
      font-size: 20px;
    }
    .when {
      width: 80px;
    }
    .what {
      width: 80px;
      color: var(--ink2);
    }
    section p {
      margin-top: 0;
    }
  `,
})
export class ClockPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  /** From the address. */
  readonly date = input('', { transform: (value: string | undefined) => value ?? '' });
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly clock = this.store.selectSignal(clockStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(clockStore.selectProblem);
  protected readonly said = signal('');
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected code = '';
  protected at = '07:00';

  constructor() {
    effect(() => {
      if (this.session()) this.load();
    });
  }

  protected go(days: number): void {
    const date = this.clock()?.date;
    if (date) void this.router.navigate([], { queryParams: { date: addDays(date, days) } });
  }

  protected press(kind: 'in' | 'out'): void {
    const date = this.clock()?.date ?? '';
    this.problem.set(null);
    this.said.set('');
    this.api.call('punch', { body: { code: this.code, kind, at: `${date}T${this.at}` } }).subscribe({
      next: ({ name, at }) => {
        this.said.set(`${name} ${kind === 'in' ? 'came' : 'went'} at ${at.slice(11)}.`);
        this.load();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected simulate(scheduleId: string, from: string): void {
    this.problem.set(null);
    this.api.call('simulatePunches', { body: { scheduleId, from } }).subscribe({
      next: ({ punches }) => {
        this.said.set(punches ? `${punches} punches recorded.` : 'The period was recorded already.');
        this.load();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private load(): void {
    this.store.dispatch(clockStore.load({ input: { query: this.date() ? { date: this.date() } : {} }, keep: true }));
  }
}
