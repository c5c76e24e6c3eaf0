import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { AnswerOf, OwnSessions, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { MomentPipe } from '../kit/words';
import { Problem } from '../kit/problem';
import { sessionActions, sessionFeature } from './session.store';

type Part = 'password' | 'factor' | 'sessions';

/** What is one's own: the password, the authenticator, and where one is signed in. */
@Component({
  selector: 'wr-account',
  imports: [FormsModule, MomentPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Your account</h1>
        <span class="muted">{{ session()?.user?.name }}, {{ session()?.user?.email }}</span>
      </div>
      <section class="section first">
        <h2>Password</h2>
        <form class="form narrow" (ngSubmit)="changePassword()">
          <label class="field"
            >Current password <input type="password" name="current" [(ngModel)]="current" autocomplete="current-password"
          /></label>
          <label class="field">New password <input type="password" name="next" [(ngModel)]="next" autocomplete="new-password" /></label>
          <wr-problem [problem]="at() === 'password' ? problem() : null" />
          <div class="form-actions">
            <button class="main-action" type="submit" [disabled]="!current || next.length < 10">Change password</button>
            <span class="muted">Your other sessions end.</span>
          </div>
        </form>
      </section>
      <section class="section">
        <h2>Second factor</h2>
        @if (codes(); as codes) {
          <p class="notice" role="status">
            Your authenticator is set up. Keep these recovery codes; each opens once, and they are shown only now:
          </p>
          <p class="codes">{{ codes.join('   ') }}</p>
        } @else if (session()?.secondFactor) {
          <p>You sign in with an authenticator.</p>
          <form class="form narrow" (ngSubmit)="removeFactor()">
            <label class="field"
              >Password <input type="password" name="remove" [(ngModel)]="password" autocomplete="current-password"
            /></label>
            <div><button class="destructive" type="submit" [disabled]="!password">Remove authenticator</button></div>
          </form>
        } @else if (begun(); as begun) {
          <p>Scan the picture with an authenticator, or type the secret into it; then enter the code that it shows.</p>
          <img [src]="begun.picture" width="180" height="180" alt="The secret as a picture for an authenticator" />
          <p class="codes">{{ begun.secret }}</p>
          <form class="form narrow" (ngSubmit)="confirmFactor()">
            <label class="field">Code <input name="code" [(ngModel)]="code" autocomplete="one-time-code" inputmode="numeric" /></label>
            <div><button class="main-action" type="submit" [disabled]="code.length < 6">Confirm code</button></div>
          </form>
        } @else {
          <p class="muted">An authenticator on your telephone shows a code that is asked for beside the password.</p>
          <form class="form narrow" (ngSubmit)="beginFactor()">
            <label class="field"
              >Password <input type="password" name="begin" [(ngModel)]="password" autocomplete="current-password"
            /></label>
            <div><button class="main-action" type="submit" [disabled]="!password">Set up authenticator</button></div>
          </form>
        }
        <wr-problem [problem]="at() === 'factor' ? problem() : null" />
      </section>
      <section class="section">
        <h2>
          Where you are signed in
          @if (sessions().length > 1) {
            <button class="quiet" type="button" (click)="endOthers()">End all others</button>
          }
        </h2>
        <wr-problem [problem]="at() === 'sessions' ? problem() : null" />
        <table class="lines">
          @for (one of sessions(); track one.id) {
            <tr>
              <td class="when">{{ one.signedInAt | moment }}</td>
              <td>
                {{ one.current ? 'This browser' : one.agent || 'Another browser' }}
                <div class="muted">from {{ one.address }}</div>
              </td>
            </tr>
          }
        </table>
      </section>
    </main>
  `,
  styles: `
    .when {
      width: 190px;
    }
    .codes {
      font-variant-numeric: tabular-nums;
      white-space: pre-wrap;
      letter-spacing: 0.04em;
      max-width: 460px;
    }
    .section > form {
      max-width: 420px;
    }
  `,
})
export class Account {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  protected readonly session = this.store.selectSignal(sessionFeature.selectSession);
  protected readonly sessions = signal<OwnSessions>([]);
  protected readonly begun = signal<AnswerOf<'beginSecondFactor'> | null>(null);
  protected readonly codes = signal<string[] | null>(null);
  protected readonly at = signal<Part | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected current = '';
  protected next = '';
  protected password = '';
  protected code = '';

  constructor() {
    this.fetch();
  }

  protected changePassword(): void {
    this.call('password', this.api.call('changePassword', { body: { current: this.current, password: this.next } }), () => {
      this.current = this.next = '';
    });
  }

  protected beginFactor(): void {
    this.call('factor', this.api.call('beginSecondFactor', { body: { password: this.password } }), (begun) => this.begun.set(begun));
  }

  protected confirmFactor(): void {
    this.call('factor', this.api.call('confirmSecondFactor', { body: { code: this.code } }), ({ recoveryCodes }) => {
      this.codes.set(recoveryCodes);
      this.begun.set(null);
    });
  }

  protected removeFactor(): void {
    this.call('factor', this.api.call('removeSecondFactor', { body: { password: this.password } }), () => this.codes.set(null));
  }

  protected endOthers(): void {
    this.call('sessions', this.api.call('endSessions'), () => undefined);
  }

  private call<T>(at: Part, request: Observable<T>, done: (answer: T) => void): void {
    this.at.set(at);
    this.problem.set(null);
    request.subscribe({
      next: (answer) => {
        this.password = this.code = '';
        done(answer);
        this.fetch();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  /** Sessions, and whether a second factor is set up now. */
  private fetch(): void {
    this.api.call('sessions').subscribe((sessions) => this.sessions.set(sessions));
    this.api.call('session').subscribe((session) => this.store.dispatch(sessionActions.restored({ session })));
  }
}
