import { ChangeDetectionStrategy, Component, effect, inject } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { sessionActions, sessionFeature } from './session.store';

/** The fields of signing in; used on the page of its own and over a page whose session has ended. */
@Component({
  selector: 'wr-sign-in-form',
  imports: [ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="form narrow" [formGroup]="form" (ngSubmit)="signIn()">
      <label class="field">E-mail <input type="email" formControlName="email" autocomplete="username" /></label>
      <label class="field">Password <input type="password" formControlName="password" autocomplete="current-password" /></label>
      @if (problem(); as problem) {
        <p class="notice bad" role="alert">{{ problem.detail }}</p>
      }
      <div><button class="main-action" type="submit" [disabled]="form.invalid">Sign in</button></div>
    </form>
  `,
})
export class SignInForm {
  private readonly store = inject(Store);
  protected readonly problem = this.store.selectSignal(sessionFeature.selectProblem);
  protected readonly form = new FormGroup({
    email: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.email] }),
    password: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
  });

  protected signIn(): void {
    this.store.dispatch(sessionActions.signIn(this.form.getRawValue()));
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
