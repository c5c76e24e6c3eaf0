import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import type { PersonFacts, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { employerStore } from './people.store';
import { PersonFactsForm } from './person-facts-form';

@Component({
  selector: 'wr-person-new',
  imports: [PersonFactsForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>New person</h1>
        <span class="muted">Code and name are enough to begin; what is missing is listed on the record until it is there.</span>
      </div>
      <wr-person-facts-form
        action="Add this person"
        cancel="Back to the list"
        [problem]="problem()"
        (saved)="add($event)"
        (cancelled)="leave()"
      />
    </main>
  `,
})
export class PersonNew {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly problem = signal<ProblemDetail | null>(null);

  constructor() {
    inject(Store).dispatch(employerStore.load({ input: {}, keep: true }));
  }

  protected add(facts: PersonFacts): void {
    this.api.call('addPerson', { body: facts }).subscribe({
      next: ({ id }) => void this.router.navigate(['/people', id]),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected leave(): void {
    void this.router.navigateByUrl('/people');
  }
}
