import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import type { PersonFacts, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { employerStore, groupsStore } from './people.store';
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
      @if (groups()?.length) {
        <div class="form">
          <label class="field"
            >Group
            <select (change)="choose($any($event.target).value)">
              <option value="">None</option>
              @for (group of groups(); track group.id) {
                <option [value]="group.id">{{ group.name }}</option>
              }
            </select>
            <small>Fills in what the group supplies; its items begin on the hire date</small>
          </label>
          @if (supplied(); as words) {
            <p class="muted supplied">{{ words }}</p>
          }
        </div>
      }
      <wr-person-facts-form
        [facts]="facts()"
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
  private readonly store = inject(Store);
  protected readonly groups = this.store.selectSignal(groupsStore.selectData);
  private readonly groupId = signal('');
  private readonly group = computed(() => this.groups()?.find((group) => group.id === this.groupId()) ?? null);
  /** What the group supplies fills the form; an item's name is known to the list of items only. */
  protected readonly facts = computed((): PersonFacts | null => {
    const defaults = this.group()?.defaults;
    if (!defaults) return null;
    const { items: _items, leavePlans: _plans, tax: _tax, accounts: _accounts, kind, ...facts } = defaults;
    return { ...facts, kind: kind ?? 'regular' } as PersonFacts;
  });
  protected readonly supplied = computed(() => {
    const count = this.group()?.defaults.items.length ?? 0;
    return count ? `With ${count === 1 ? 'one recurring item' : `${count} recurring items`} of the group.` : '';
  });
  protected readonly problem = signal<ProblemDetail | null>(null);

  constructor() {
    this.store.dispatch(employerStore.load({ input: {}, keep: true }));
    this.store.dispatch(groupsStore.load({ input: {}, keep: true }));
  }

  protected choose(id: string): void {
    this.groupId.set(id);
  }

  protected add({ facts }: { facts: PersonFacts }): void {
    this.api.call('addPerson', { body: { ...facts, groupId: this.groupId() || null } }).subscribe({
      next: ({ id }) => void this.router.navigate(['/people', id]),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected leave(): void {
    void this.router.navigateByUrl('/people');
  }
}
