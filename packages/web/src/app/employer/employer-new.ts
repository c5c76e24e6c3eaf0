import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { countriesToSetUp } from '@woodruff/core';
import type { ProblemDetail } from '@woodruff/contract';
import { switchMap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { sessionActions } from '../session/session.store';

/** A new employer begins with its name; its page lists what is missing before the first run. */
@Component({
  selector: 'wr-employer-new',
  imports: [Problem, ReactiveFormsModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>A new employer</h1>
        <span class="muted">The name is enough to begin. You administer it; nothing of one employer is seen in another.</span>
      </div>
      <form [formGroup]="form" (ngSubmit)="add()">
        <div class="form">
          <label class="field">Legal name <input formControlName="name" autocomplete="off" /></label>
          <label class="field"
            >Country
            <select formControlName="country">
              @for (country of countries; track country.code) {
                <option [value]="country.code">{{ country.name }}</option>
              }
            </select>
          </label>
        </div>
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Add employer</button>
          <a class="quiet" routerLink="/today">Cancel</a>
        </div>
      </form>
    </main>
  `,
})
export class EmployerNew {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly countries = countriesToSetUp();
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly form = new FormGroup({
    name: new FormControl('', { nonNullable: true }),
    country: new FormControl(this.countries[0]?.code ?? '', { nonNullable: true }),
  });

  protected add(): void {
    this.api
      .call('addEmployer', { body: this.form.getRawValue() })
      .pipe(switchMap(({ id }) => this.api.call('session').pipe(switchMap((session) => [{ id, session }]))))
      .subscribe({
        next: ({ id, session }) => {
          this.store.dispatch(sessionActions.restored({ session }));
          this.store.dispatch(sessionActions.chooseEmployer({ id }));
          void this.router.navigateByUrl('/employer');
        },
        error: (error: unknown) => this.problem.set(problemOf(error)),
      });
  }
}
