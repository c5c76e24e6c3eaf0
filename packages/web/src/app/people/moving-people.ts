import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Effect, GroupEffect, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { PeoplePicker } from '../kit/people-picker';
import { Problem } from '../kit/problem';
import { selectEmployer } from '../session/session.store';
import { GroupEffectTable } from './group-effect';
import { peopleStore } from './people.store';
import { CountedPipe } from '../kit/words';

/** Who is moved, and the day from which it holds. */
export interface Move {
  personIds: string[];
  from: string;
}

/** Whoever moves people says what it would do, and does it. */
export interface Mover {
  look(move: Move): Observable<{ runs: Effect; group?: GroupEffect }>;
  save(move: Move): Observable<unknown>;
}

/** People chosen to go into something or out of it from a day on: what it changes is shown before it is saved. */
@Component({
  selector: 'wr-moving-people',
  imports: [CountedPipe, EffectOnRuns, GroupEffectTable, PeoplePicker, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="panel-form">
      <ng-content />
      <wr-people-picker
        [people]="everybody() ?? []"
        [except]="except()"
        [from]="from()"
        (fromChange)="from.set($event); forget()"
        [chosen]="chosen()"
        (chosenChange)="chosen.set($event); forget()"
        [label]="label()"
      />
      <wr-problem [problem]="problem()" />
      @if (effect(); as effect) {
        @if (effect.group; as group) {
          <wr-group-effect [effect]="group" />
        }
        <wr-effect [effect]="effect.runs" />
      }
      <div class="form-actions">
        @if (effect()) {
          <button class="main-action" type="button" (click)="save()">
            {{ verb() }} {{ chosen().size | counted: 'person' : 'people' }}{{ where() ? ' ' + where() : '' }}
          </button>
        } @else {
          <button class="main-action" type="button" [disabled]="!chosen().size" (click)="look()">Show what it changes</button>
        }
        <button class="quiet" type="button" (click)="left.emit()">{{ leaving() }}</button>
      </div>
    </div>
  `,
})
export class MovingPeople {
  private readonly store = inject(Store);
  readonly mover = input.required<Mover>();
  /** What is done, as the button says it: “Move”, “Put in”. */
  readonly verb = input.required<string>();
  readonly where = input('');
  readonly label = input.required<string>();
  readonly leaving = input('Leave them as they are');
  /** Those who are not offered. */
  readonly except = input<ReadonlySet<string>>(new Set());
  readonly moved = output();
  readonly left = output();
  protected readonly everybody = this.store.selectSignal(peopleStore.selectData);
  protected readonly from = signal(this.store.selectSignal(selectEmployer)()?.today ?? '');
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly effect = signal<{ runs: Effect; group?: GroupEffect } | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);

  constructor() {
    this.store.dispatch(peopleStore.load({ input: {}, keep: true }));
  }

  /** What was shown no longer holds once somebody else is chosen. */
  protected forget(): void {
    this.effect.set(null);
    this.problem.set(null);
  }

  protected look(): void {
    this.problem.set(null);
    this.mover()
      .look(this.move())
      .subscribe({ next: (effect) => this.effect.set(effect), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  protected save(): void {
    this.mover()
      .save(this.move())
      .subscribe({ next: () => this.moved.emit(), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  private move(): Move {
    return { personIds: [...this.chosen()], from: this.from() };
  }
}
