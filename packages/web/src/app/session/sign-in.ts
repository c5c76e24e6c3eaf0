import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail } from '@woodruff/contract';
import { passkeyProblem, usePasskey } from './passkey';
import { sessionActions, sessionFeature } from './session.store';

/** The fields of signing in; used on the page of its own and over a page whose session has ended. */
@Component({
  selector: 'wr-sign-in-form',
  imports: [ReactiveFormsModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="form narrow" [formGroup]="form" (ngSubmit)="signIn()">
      <label class="field">E-mail <input type="email" formControlName="email" autocomplete="username" /></label>
      <label class="field">Password <input type="password" formControlName="password" autocomplete="current-password" /></label>
      @if (asksCode()) {
        <label class="field">Code <input formControlName="code" autocomplete="one-time-code" /></label>
      }
      @if (said(); as problem) {
        <p [class]="problem.code === 'second-factor' ? 'notice' : 'notice bad'" role="alert">{{ problem.detail }}</p>
      }
      <div class="form-actions">
        <button class="main-action" type="submit" [disabled]="form.invalid">Sign in</button>
        @if (problem()?.passkey) {
          <button type="button" (click)="withPasskey()">Use passkey</button>
        }
        <a class="quiet" routerLink="/forgotten">Forgot your password?</a>
      </div>
    </form>
  `,
})
export class SignInForm {
  private readonly store = inject(Store);
  protected readonly problem = this.store.selectSignal(sessionFeature.selectProblem);
  /** What the browser said of a passkey, until something else is said. */
  private readonly unlucky = signal<ProblemDetail | null>(null);
  protected readonly said = computed(() => this.unlucky() ?? this.problem());
  protected readonly asksCode = computed(() => ['second-factor', 'wrong-code', 'wrong-passkey'].includes(this.problem()?.code ?? ''));
  protected readonly form = new FormGroup({
    email: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.email] }),
    password: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    code: new FormControl('', { nonNullable: true }),
  });

  protected signIn(): void {
    this.unlucky.set(null);
    const { code, ...known } = this.form.getRawValue();
    this.store.dispatch(sessionActions.signIn(code ? { ...known, code } : known));
  }

  protected async withPasskey(): Promise<void> {
    this.unlucky.set(null);
    const { email, password } = this.form.getRawValue();
    try {
      const passkey = await usePasskey(this.problem()?.passkey ?? {});
      this.store.dispatch(sessionActions.signIn({ email, password, passkey }));
    } catch (error) {
      this.unlucky.set(passkeyProblem(error));
    }
  }
}

@Component({
  selector: 'wr-sign-in',
  imports: [SignInForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sign-in">
      <div>
        <p class="serif name">Woodruff</p>
        <p class="muted">Payroll in which every figure explains itself.</p>
        <h1>Sign in</h1>
        <wr-sign-in-form />
      </div>
    </main>
  `,
  styles: `
    .sign-in {
      min-height: 100vh;
      display: grid;
      place-items: center;
      border-top: 4px solid var(--ink);
    }
    .sign-in > div {
      width: 380px;
    }
    .name {
      font-size: 32px;
      margin: 0;
    }
    h1 {
      font-size: 20px;
      margin: 26px 0 12px;
    }
  `,
})
export class SignIn {
  constructor() {
    const session = inject(Store).selectSignal(sessionFeature.selectSession);
    const router = inject(Router);
    effect(() => {
      if (session()) void router.navigateByUrl('/today');
    });
  }
}
