import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Group, ProblemDetail } from '@woodruff/contract';
import { writtenDecimal } from '@woodruff/core';
import { forkJoin } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Keys } from '../kit/keys';
import { Problem } from '../kit/problem';
import { termsNow } from '../leave/leave-words';
import { leaveStore } from '../leave/leave.store';
import { payItemsStore } from '../pay-items/pay-items.store';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { GroupForm } from './group-form';
import { MovingPeople, type Mover } from './moving-people';
import { employerStore, groupsStore } from './people.store';

/** Groups: what each supplies to its people, who is in it, and who has something of their own. */
@Component({
  selector: 'wr-pay-groups',
  imports: [GroupForm, MovingPeople, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Groups</h1>
        <span class="muted">What people have in common, entered once. Whoever joins gets it; a change can be passed on to everybody.</span>
        @if (mayPrepare() && open() !== 'new') {
          <button class="main-action right" type="button" (click)="open.set('new')">Add a group</button>
        }
      </div>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (open() === 'new') {
        <wr-group-form (saved)="done()" (left)="open.set(null)" />
      }
      @for (group of groups(); track group.id) {
        <section class="section">
          <h2>
            {{ group.name }}
            <span class="muted count"
              >{{ group.members.length || 'nobody' }}
              {{ group.members.length === 1 ? 'person' : group.members.length ? 'people' : '' }}</span
            >
            @if (mayPrepare() && open() !== group.id) {
              <span class="acts">
                <button class="quiet" type="button" (click)="move(group)" [attr.aria-label]="'Move people to ' + group.name">
                  Move people here
                </button>
                <button class="quiet" type="button" (click)="change(group)" [attr.aria-label]="'Change ' + group.name">Change</button>
                @if (!group.members.length) {
                  <button class="quiet" type="button" (click)="remove(group)" [attr.aria-label]="'Remove ' + group.name">Remove</button>
                }
              </span>
            }
          </h2>
          @if (open() === group.id) {
            <wr-group-form [group]="group" (saved)="done()" (left)="open.set(null)" />
          } @else {
            <p class="muted">{{ supplies(group) }}</p>
          }
          @if (moving() === group.id) {
            <wr-moving-people
              verb="Move"
              [where]="'to ' + group.name"
              [label]="'People to move to ' + group.name"
              leaving="Leave them where they are"
              [except]="inIt()"
              [mover]="mover()"
              (moved)="done()"
              (left)="moving.set(null)"
            />
          }
          @if (group.members.length) {
            <details>
              <summary>
                {{ group.members.length === 1 ? 'Who is in it' : 'The ' + group.members.length + ' people in it' }}{{ ownWords(group) }}
              </summary>
              <table class="lines">
                @for (member of group.members; track member.personId) {
                  <tr>
                    <td>
                      <a [routerLink]="['/people', member.personId]">{{ member.name }}</a>
                    </td>
                    <td class="muted">{{ member.own.length ? 'the group has ' + member.own.join('; ') : 'as the group' }}</td>
                  </tr>
                }
              </table>
            </details>
          }
        </section>
      } @empty {
        @if (groups() && open() !== 'new') {
          <p class="notice">
            No groups yet. A group holds what its people have in common: schedule, place, hours, recurring items. A new person in it needs
            only name, pay and tax details.
          </p>
        }
      }
    </main>
  `,
  styleUrl: './person-part.scss',
  styles: `
    .count {
      font:
        400 14px 'Source Sans 3 Variable',
        sans-serif;
    }
    .acts {
      margin-left: auto;
      display: flex;
      gap: 16px;
    }
    td:first-child {
      width: 260px;
    }
  `,
})
export class PayGroups {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly groups = this.store.selectSignal(groupsStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(groupsStore.selectProblem);
  private readonly employer = this.store.selectSignal(employerStore.selectData);
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  private readonly leave = this.store.selectSignal(leaveStore.selectData);
  protected readonly problem = signal<ProblemDetail | null>(null);
  /** The group whose form is open. */
  protected readonly open = signal<string | null>(null);
  /** The group that people are being moved to. */
  protected readonly moving = signal<string | null>(null);
  /** Who is in the group already. */
  protected readonly inIt = computed(
    () =>
      new Set(
        this.groups()
          ?.find((group) => group.id === this.moving())
          ?.members.map((member) => member.personId),
      ),
  );
  protected readonly mover = computed((): Mover => {
    const path = { id: this.moving() ?? '' };
    return {
      look: (body) =>
        forkJoin({ group: this.api.call('checkMove', { path, body }), runs: this.api.rehearse('moveToGroup', { path, body }) }),
      save: (body) => this.api.call('moveToGroup', { path, body }),
    };
  });

  constructor() {
    effect(() => {
      if (!this.session()) return;
      this.reload();
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
      this.store.dispatch(employerStore.load({ input: {}, keep: true }));
      this.store.dispatch(leaveStore.load({ input: {}, keep: true }));
    });
    inject(DestroyRef).onDestroy(
      inject(Keys).add({ keys: 'n', label: 'Add a group', run: () => this.mayPrepare() && this.open.set('new') }),
    );
  }

  protected supplies({ defaults }: Group): string {
    const schedule = this.employer()?.schedules.find((one) => one.id === defaults.scheduleId)?.name;
    const items = defaults.items.map((item) => {
      const name = this.items()?.find((one) => one.id === item.itemId)?.name ?? '';
      return item.percent ? `${name} ${item.percent}%` : item.amount ? `${name} ${writtenDecimal(item.amount)}` : name;
    });
    const words = [
      schedule,
      defaults.department,
      defaults.worksite,
      defaults.job,
      defaults.kind ?? '',
      defaults.standardHours ? `${defaults.standardHours} hours` : '',
      ...items,
      ...(defaults.leavePlans ?? []).map((id) => this.planName(id)),
      ...Object.values(defaults.tax ?? {}).map((value) => `taxed in ${value}`),
      ...Object.values(defaults.accounts ?? {})
        .filter(Boolean)
        .map((account) => `account ${account}`),
    ].filter(Boolean);
    return words.length ? `Supplies ${words.join(', ')}.` : 'Supplies nothing yet.';
  }

  private planName(id: string): string {
    const plan = this.leave()?.plans.find((one) => one.id === id);
    return plan ? (termsNow(plan, this.session()?.today ?? '')?.name.toLowerCase() ?? '') : '';
  }

  protected ownWords(group: Group): string {
    const own = group.members.filter((member) => member.own.length).length;
    return own ? `, ${own} with something of their own` : '';
  }

  protected change(group: Group): void {
    this.moving.set(null);
    this.open.set(group.id);
  }

  protected move(group: Group): void {
    this.open.set(null);
    this.moving.set(group.id);
  }

  protected remove(group: Group): void {
    this.api.call('removeGroup', { path: { id: group.id } }).subscribe({
      next: () => this.done(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected done(): void {
    this.open.set(null);
    this.moving.set(null);
    this.problem.set(null);
    this.reload();
  }

  private reload(): void {
    this.store.dispatch(groupsStore.load({ input: {}, keep: true }));
  }
}
