import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { BodyOf, ItemMoves as Moves } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { saving } from '../kit/saving';
import { CountedPipe, MoneyPipe, SignedPipe } from '../kit/words';

/**
 * Whose year to date stands otherwise than an item counts, and by how much: before a treatment is saved as what it would come
 * to, afterwards as what is still to be moved.
 */
@Component({
  selector: 'wr-item-moves',
  imports: [CountedPipe, FormsModule, MoneyPipe, Problem, RouterLink, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <wr-problem [problem]="problem()" />
    @if (moves(); as moves) {
      @if (moves.people.length) {
        <div class="notice" role="status">
          <p>
            @if (ahead()) {
              {{ posted() | money }} was posted in {{ moves.year }}, and stays on the statements of
              {{ moves.people.length | counted: 'person' : 'people' }} where it is. When the change is saved it can be moved, by adjustments
              without payment:
            } @else {
              Of {{ moves.people.length | counted: 'person' : 'people' }} {{ posted() | money }} was posted in {{ moves.year }} under
              another treatment, and stands on their statements otherwise than the item counts now. What is to be moved:
            }
          </p>
          <table class="lines">
            <tr>
              <th>Person</th>
              <th class="num">Posted</th>
              @for (base of moves.bases; track base.code) {
                <th class="num">{{ base.label }}</th>
              }
            </tr>
            @for (person of shown(); track person.personId) {
              <tr>
                <td>
                  <a [routerLink]="['/people', person.personId]">{{ person.name }}</a>
                </td>
                <td class="num">{{ person.posted | money }}</td>
                @for (amount of person.sums; track $index) {
                  <td class="num">{{ amount | signed }}</td>
                }
              </tr>
            }
          </table>
          @if (moves.people.length > shown().length) {
            <button type="button" class="quiet" (click)="all.set(true)">Show all {{ moves.people.length | counted }}</button>
          }
          <p class="muted">Taxes and contributions stay as they were calculated; to change these too, correct the payslips.</p>
          @if (!ahead() && mayMove()) {
            @if (asking()) {
              <form class="row-of" (ngSubmit)="move()">
                <label class="row-of"
                  >Reason <input class="entry" name="reason" [(ngModel)]="reason" required minlength="3" maxlength="300" size="40"
                /></label>
                <button class="main-action" type="submit" [disabled]="reason.trim().length < 3">Move it</button>
                <button class="quiet" type="button" (click)="asking.set(false)">Cancel</button>
              </form>
            } @else {
              <button type="button" class="opens" (click)="asking.set(true)">Move it where it counts now …</button>
            }
          } @else if (!ahead()) {
            <p class="muted">Somebody who may approve can move it.</p>
          }
        </div>
      } @else if (ahead() && !moves.stay.length) {
        <p class="muted">Nothing that was posted in {{ moves.year }} would stand elsewhere on anybody's statement.</p>
      }
      @if (moves.stay.length) {
        <p class="notice">
          Not moved, because each payslip calculates it: {{ moves.stay.join('; ') }}. Reverse and correct the payslips to change it.
        </p>
      }
    }
  `,
  styles: 'p { margin: 0 0 6px; max-width: 76ch; } .notice { max-width: 860px; } table { background: transparent; }',
})
export class ItemMoves {
  private readonly api = inject(Api);
  readonly itemId = input.required<string>();
  readonly counted = input.required<BodyOf<'itemMoves'>>();
  /** The treatment is looked at, and not saved yet. */
  readonly ahead = input(false);
  readonly mayMove = input(false);
  protected readonly moves = signal<Moves | null>(null);
  protected readonly all = signal(false);
  protected readonly asking = signal(false);
  protected reason = '';
  readonly moved = output();
  private readonly saving = saving(() => {
    this.look();
    this.moved.emit();
  });
  protected readonly problem = this.saving.problem;
  protected readonly shown = computed(() => (this.all() ? (this.moves()?.people ?? []) : (this.moves()?.people ?? []).slice(0, 12)));
  protected readonly posted = computed(() => this.moves()?.people.reduce((sum, { posted }) => sum + posted, 0) ?? 0);

  constructor() {
    effect(() => this.look());
  }

  protected move(): void {
    const { reason } = this;
    this.saving.save(this.api.call('moveItem', { path: { id: this.itemId() }, body: { reason } }), () => this.asking.set(false));
  }

  private look(): void {
    this.api
      .call('itemMoves', { path: { id: this.itemId() }, body: this.counted() })
      .subscribe({ next: (moves) => this.moves.set(moves), error: (error: unknown) => this.saving.say(problemOf(error)) });
  }
}
