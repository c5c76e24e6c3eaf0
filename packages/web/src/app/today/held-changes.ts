import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { HeldChanges, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { MomentPipe } from '../kit/words';
import { selectMay } from '../session/session.store';

/** Changes that wait for a second person: confirmed by somebody else, declined with a reason, or withdrawn. */
@Component({
  selector: 'wr-held-changes',
  imports: [MomentPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (held().length || problem()) {
      <section class="section">
        <h2>Waiting for a second person</h2>
        <wr-problem [problem]="problem()" />
        <table class="lines">
          @for (one of held(); track one.id) {
            <tr>
              <td class="when">{{ one.at | moment }}</td>
              <td>
                {{ one.what }}
                @for (entry of one.entries; track $index) {
                  <div>{{ entry }}</div>
                }
                <div class="muted">asked for by {{ one.own ? 'you' : one.who }}</div>
              </td>
              <td class="num">
                @if (one.own) {
                  <button class="quiet" type="button" (click)="decline(one.id, 'Withdrawn by who asked for it')">Withdraw</button>
                } @else if (mayApprove()) {
                  <button class="quiet" type="button" (click)="confirm(one.id)">Confirm</button>
                  <button class="quiet" type="button" (click)="declining.set(declining() === one.id ? '' : one.id)">Decline</button>
                }
              </td>
            </tr>
            @if (declining() === one.id) {
              <tr>
                <td></td>
                <td colspan="2">
                  <label class="field">Why it is declined <input #why /></label>
                  <button class="destructive" type="button" (click)="decline(one.id, why.value)">Decline change</button>
                </td>
              </tr>
            }
          }
        </table>
      </section>
    }
  `,
  styles: `
    .when {
      width: 150px;
      color: var(--ink2);
    }
    .num button + button {
      margin-left: 12px;
    }
  `,
})
export class HeldChangesPart {
  private readonly api = inject(Api);
  protected readonly mayApprove = inject(Store).selectSignal(selectMay('approve'));
  protected readonly held = signal<HeldChanges>([]);
  protected readonly declining = signal('');
  protected readonly problem = signal<ProblemDetail | null>(null);

  constructor() {
    this.fetch();
  }

  protected confirm(id: string): void {
    this.done(this.api.call('confirmHeld', { path: { id }, body: {} }));
  }

  protected decline(id: string, reason: string): void {
    this.done(this.api.call('declineHeld', { path: { id }, body: { reason } }));
  }

  private done(request: Observable<unknown>): void {
    this.problem.set(null);
    request.subscribe({
      next: () => {
        this.declining.set('');
        this.fetch();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private fetch(): void {
    this.api
      .call('heldChanges')
      .subscribe({ next: (held) => this.held.set(held), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }
}
