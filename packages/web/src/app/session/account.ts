import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { AnswerOf, OwnSessions, Passkeys, ProblemDetail } from '@woodruff/contract';
import { switchMap, type Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { MomentPipe } from '../kit/words';
import { Problem } from '../kit/problem';
import { makePasskey, passkeyProblem } from './passkey';
import { sessionActions, sessionFeature } from './session.store';

type Part = 'password' | 'factor' | 'sessions';
/** What is done with a second factor once the password is entered. */
interface Asked {
  what: 'authenticator' | 'add-passkey' | 'remove-authenticator' | 'remove-passkey';
  key?: string;
}

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
        <p class="muted">Asked for after the password: the code in an authenticator app, or a passkey. Either is enough.</p>
        @if (codes().length) {
          <p class="notice" role="status">Set up. Keep these recovery codes; each opens once, and they are shown only now:</p>
          <p class="codes">{{ codes().join('   ') }}</p>
        }
        <table class="lines">
          @if (session()?.authenticator) {
            <tr>
              <td>Authenticator</td>
              <td class="muted">A code at every sign-in</td>
              <td class="end">
                <button class="quiet" type="button" (click)="ask({ what: 'remove-authenticator' })">Remove authenticator</button>
              </td>
            </tr>
          }
          @for (key of passkeys(); track key.id) {
            <tr>
              <td>{{ key.label }}</td>
              <td class="muted">Passkey, {{ key.usedAt ? 'last used ' : 'added ' }}{{ key.usedAt ?? key.addedAt | moment }}</td>
              <td class="end">
                <button class="quiet" type="button" (click)="ask({ what: 'remove-passkey', key: key.id })">Remove passkey</button>
              </td>
            </tr>
          }
        </table>
        @if (begun(); as begun) {
          <p>Scan the picture with an authenticator, or type the secret into it; then enter the code that it shows.</p>
          <img [src]="begun.picture" width="180" height="180" alt="The secret as a picture for an authenticator" />
          <p class="codes">{{ begun.secret }}</p>
          <form class="form narrow" (ngSubmit)="confirmFactor()">
            <label class="field">Code <input name="code" [(ngModel)]="code" autocomplete="one-time-code" inputmode="numeric" /></label>
            <div><button class="main-action" type="submit" [disabled]="code.length < 6">Confirm code</button></div>
          </form>
        } @else if (asked(); as asked) {
          <form class="form narrow" (ngSubmit)="go(asked)">
            @if (asked.what === 'add-passkey') {
              <label class="field"
                >Name of the passkey <input name="label" [(ngModel)]="label" maxlength="60" placeholder="Blue key, office laptop"
              /></label>
            }
            <label class="field"
              >Password <input type="password" name="password" [(ngModel)]="password" autocomplete="current-password"
            /></label>
            <div class="form-actions">
              <button
                [class]="asked.what.startsWith('remove') ? 'destructive' : 'main-action'"
                type="submit"
                [disabled]="!password || (asked.what === 'add-passkey' && !label)"
              >
                {{ names[asked.what] }}
              </button>
              <button class="quiet" type="button" (click)="ask(null)">Cancel</button>
            </div>
          </form>
        } @else {
          <div class="form-actions">
            @if (!session()?.authenticator) {
              <button class="quiet" type="button" (click)="ask({ what: 'authenticator' })">Set up authenticator</button>
            }
            <button class="quiet" type="button" (click)="ask({ what: 'add-passkey' })">Add passkey</button>
          </div>
        }
        <wr-problem [problem]="at() === 'factor' ? problem() : null" />
      </section>
      <section class="section">
        <h2>
          Where you are signed in
          @if (sessions().length > 1) {
            <button class="quiet end" type="button" (click)="endOthers()">Sign out everywhere else</button>
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
    h2:has(.end) {
      display: flex;
      justify-content: space-between;
      align-items: baseline;
    }
    .when {
      width: 190px;
    }
    .codes {
      font-variant-numeric: tabular-nums;
      white-space: pre-wrap;
      letter-spacing: 0.04em;
      max-width: 460px;
    }
    .end {
      text-align: right;
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
  protected readonly codes = signal<string[]>([]);
  protected readonly passkeys = signal<Passkeys>([]);
  protected readonly asked = signal<Asked | null>(null);
  protected readonly names: Record<Asked['what'], string> = {
    authenticator: 'Set up authenticator',
    'add-passkey': 'Add passkey',
    'remove-authenticator': 'Remove authenticator',
    'remove-passkey': 'Remove passkey',
  };
  protected readonly at = signal<Part | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected current = '';
  protected next = '';
  protected password = '';
  protected code = '';
  protected label = '';

  constructor() {
    this.fetch();
  }

  protected changePassword(): void {
    this.call('password', this.api.call('changePassword', { body: { current: this.current, password: this.next } }), () => {
      this.current = this.next = '';
    });
  }

  protected ask(asked: Asked | null): void {
    this.password = this.label = '';
    this.problem.set(null);
    this.codes.set([]);
    this.asked.set(asked);
  }

  protected go({ what, key }: Asked): void {
    const body = { password: this.password };
    const label = this.label;
    switch (what) {
      case 'authenticator':
        return this.call('factor', this.api.call('beginSecondFactor', { body }), (begun) => this.begun.set(begun));
      case 'add-passkey':
        return this.call(
          'factor',
          this.api.call('beginPasskey', { body }).pipe(
            switchMap(({ options }) => makePasskey(options)),
            switchMap((response) => this.api.call('addPasskey', { body: { label, response } })),
          ),
          ({ recoveryCodes }) => this.codes.set(recoveryCodes),
        );
      case 'remove-authenticator':
        return this.call('factor', this.api.call('removeSecondFactor', { body }), () => undefined);
      case 'remove-passkey':
        return this.call('factor', this.api.call('removePasskey', { path: { key: key ?? '' }, body }), () => undefined);
    }
  }

  protected confirmFactor(): void {
    this.call('factor', this.api.call('confirmSecondFactor', { body: { code: this.code } }), ({ recoveryCodes }) => {
      this.codes.set(recoveryCodes);
      this.begun.set(null);
    });
  }

  protected endOthers(): void {
    this.call('sessions', this.api.call('endSessions'), () => undefined);
  }

  private call<T>(at: Part, request: Observable<T>, done: (answer: T) => void): void {
    this.at.set(at);
    this.problem.set(null);
    request.subscribe({
      next: (answer) => {
        this.password = this.code = this.label = '';
        this.asked.set(null);
        done(answer);
        this.fetch();
      },
      error: (error: unknown) =>
        this.problem.set(error instanceof Error && !('status' in error) ? passkeyProblem(error) : problemOf(error)),
    });
  }

  /** Sessions, and whether a second factor is set up now. */
  private fetch(): void {
    this.api.call('passkeys').subscribe((passkeys) => this.passkeys.set(passkeys));
    this.api.call('sessions').subscribe((sessions) => this.sessions.set(sessions));
    this.api.call('session').subscribe((session) => this.store.dispatch(sessionActions.restored({ session })));
  }
}
