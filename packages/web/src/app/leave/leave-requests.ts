import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Effect, LeaveRequest, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { DecimalPipe, PeriodPipe } from '../kit/words';
import { selectMayPrepare } from '../session/session.store';

type Decision = 'approved' | 'declined' | 'withdrawn';
const ACTS: Record<Decision, string> = { approved: 'Approve', declined: 'Decline', withdrawn: 'Withdraw' };

/** Requests for leave with what can be done about each; what approving does to the open run is shown first. */
@Component({
  selector: 'wr-leave-requests',
  imports: [DecimalPipe, EffectOnRuns, FormsModule, PeriodPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="lines">
      @for (request of requests(); track request.id) {
        <tr>
          @if (named()) {
            <td class="who">
              <a [routerLink]="['/people', request.personId]" fragment="leave">{{ request.name }}</a>
              <span class="muted">{{ request.department }}</span>
            </td>
          }
          <td class="when">{{ request | period }}</td>
          <td class="num hours">{{ request.hours | decimal }} hours</td>
          <td>
            {{ request.plan }}
            @if (request.note) {
              <span class="muted">{{ request.note }}</span>
            }
          </td>
          <td [class.attention]="request.state === 'asked'">
            {{ words(request) }}
            @if (request.comment) {
              <span class="muted">{{ request.comment }}</span>
            }
          </td>
          <td class="num">
            @if (mayPrepare()) {
              @for (act of actsOf(request); track act) {
                <button
                  class="quiet"
                  type="button"
                  (click)="begin(request, act)"
                  [attr.aria-label]="acts[act] + ' the leave of ' + request.name"
                >
                  {{ acts[act] }}{{ act === 'approved' ? '' : ' …' }}
                </button>
              }
            }
          </td>
        </tr>
        @if (deciding()?.id === request.id) {
          <tr>
            <td [attr.colspan]="named() ? 6 : 5">
              <form class="deciding" (ngSubmit)="decide(request)">
                @if (effect(); as effect) {
                  <wr-effect [effect]="effect" />
                }
                <wr-problem [problem]="problem()" />
                <div class="row-of">
                  <label
                    >{{ decision() === 'approved' ? 'Comment' : 'Why' }} <input class="entry" name="comment" [(ngModel)]="comment"
                  /></label>
                  <button class="main-action" type="submit">{{ acts[decision()] }} {{ request.hours | decimal }} hours</button>
                  <button class="quiet" type="button" (click)="deciding.set(null)">Cancel</button>
                </div>
              </form>
            </td>
          </tr>
        }
      } @empty {
        <tr>
          <td class="muted">{{ none() }}</td>
        </tr>
      }
    </table>
  `,
  styles: `
    .who {
      width: 250px;
    }
    .when {
      width: 190px;
      white-space: nowrap;
    }
    .hours {
      width: 110px;
      padding-right: 20px !important;
    }
    .entry {
      display: inline-block;
      width: 260px;
      margin: 0 0 0 6px;
      font-size: 14px;
    }
    td .quiet + .quiet {
      margin-left: 14px;
    }
    .deciding {
      padding: 4px 0 8px;
    }
  `,
})
export class LeaveRequests {
  private readonly api = inject(Api);
  readonly requests = input.required<readonly LeaveRequest[]>();
  /** Whether each line says whose it is. */
  readonly named = input(true);
  readonly none = input('No leave is asked for.');
  readonly decided = output();
  protected readonly mayPrepare = inject(Store).selectSignal(selectMayPrepare);
  protected readonly acts = ACTS;
  protected readonly deciding = signal<LeaveRequest | null>(null);
  protected readonly decision = signal<Decision>('approved');
  protected readonly effect = signal<Effect | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected comment = '';

  protected words({ state, taken, days }: LeaveRequest): string {
    if (state === 'asked') return 'asked, to be decided';
    if (state !== 'approved') return state;
    return taken === days.length ? 'taken and paid' : taken ? `approved, ${taken} of ${days.length} days paid` : 'approved';
  }

  protected actsOf({ state, taken }: LeaveRequest): Decision[] {
    if (state === 'asked') return ['approved', 'declined'];
    return state === 'approved' && !taken ? ['withdrawn'] : [];
  }

  protected begin(request: LeaveRequest, decision: Decision): void {
    this.deciding.set(request);
    this.decision.set(decision);
    this.comment = '';
    this.effect.set(null);
    this.problem.set(null);
    if (decision === 'declined') return;
    this.api.rehearse('decideLeave', this.call(request, 'Looked at')).subscribe({
      next: (effect) => this.effect.set(effect),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected decide(request: LeaveRequest): void {
    this.problem.set(null);
    this.api.call('decideLeave', this.call(request, this.comment)).subscribe({
      next: () => {
        this.deciding.set(null);
        this.decided.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private call(request: LeaveRequest, comment: string) {
    return { path: { id: request.id }, body: { state: this.decision(), version: request.version, comment } };
  }
}
