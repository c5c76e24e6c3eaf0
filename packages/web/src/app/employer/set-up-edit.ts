import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { BodyOf, Effect, EmployerFacts, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { sessionActions, selectEmployer } from '../session/session.store';
import { setUpStore } from './employer.store';

export type Part = 'legal' | 'registrations' | 'places' | 'accounts' | 'bank' | 'own-fields' | 'people-here';
type Change = BodyOf<'changeSetUp'>;

/** What the parts of an employer's page share: one of them is changed at a time, and each saves the set-up whole. */
@Injectable()
export class SetUpEdit {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly loaded = this.store.selectSignal(setUpStore.selectData);
  private readonly employer = this.store.selectSignal(selectEmployer);
  /** There while a part is shown. */
  readonly setUp = computed(() => this.loaded()!);
  readonly mayChange = computed(() => this.employer()?.rights.includes('administer') ?? false);
  readonly editing = signal<Part | null>(null);
  readonly problem = signal<ProblemDetail | null>(null);
  readonly effect = signal<Effect | null>(null);

  edit(part: Part): void {
    this.stop();
    this.editing.set(part);
  }

  stop(): void {
    this.editing.set(null);
    this.problem.set(null);
    this.effect.set(null);
  }

  reload(): void {
    this.store.dispatch(setUpStore.load({ input: {}, keep: true }));
  }

  /** What a change does to the open runs. */
  preview(facts: Partial<EmployerFacts>): void {
    this.problem.set(null);
    this.api.rehearse('changeSetUp', { body: this.body({ facts }) }).subscribe({
      next: (effect) => this.effect.set(effect),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  save(change: { name?: string; facts: Partial<EmployerFacts>; renamed?: Change['renamed'] }): void {
    this.run(this.api.call('changeSetUp', { body: this.body(change) }), () => {
      // The name stands in the bar, too.
      this.api.call('session').subscribe((session) => this.store.dispatch(sessionActions.restored({ session })));
    });
  }

  run<T>(request: Observable<T>, then: (answer: T) => void = () => undefined): void {
    this.problem.set(null);
    request.subscribe({
      next: (answer) => {
        this.stop();
        this.reload();
        then(answer);
      },
      error: (error: unknown) => {
        this.problem.set(problemOf(error));
        this.reload();
      },
    });
  }

  private body({ name, facts, renamed }: { name?: string; facts: Partial<EmployerFacts>; renamed?: Change['renamed'] }): Change {
    const { version, name: now, facts: before } = this.setUp();
    return { version, name: name ?? now, facts: { ...before, ...facts }, renamed: renamed ?? { departments: {}, worksites: {}, jobs: {} } };
  }
}
