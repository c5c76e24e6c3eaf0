import { ChangeDetectionStrategy, Component, computed, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { PersonRow } from '@woodruff/contract';
import { CountedPipe } from './words';

/** People to choose from, found by name and job; those who left before the day are not among them. */
@Component({
  selector: 'wr-people-picker',
  imports: [CountedPipe, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row-of">
      <label>From <input class="entry date" type="date" [ngModel]="from()" (ngModelChange)="from.set($event)" /></label>
      <label>Find <input class="entry" type="search" [ngModel]="text()" (ngModelChange)="text.set($event)" /></label>
      <span class="muted">{{ chosen().size }} chosen</span>
      @if (shown().length) {
        <button class="quiet" type="button" (click)="all()">Choose all {{ shown().length | counted }} shown</button>
      }
    </div>
    <div class="candidates" tabindex="0" role="group" [attr.aria-label]="label()">
      @for (person of shown(); track person.id) {
        <label class="check"
          ><input type="checkbox" [checked]="chosen().has(person.id)" (change)="toggle(person.id)" /> {{ person.name }}
          <span class="muted">{{ person.job }}</span></label
        >
      } @empty {
        <p class="muted">Nobody.</p>
      }
    </div>
  `,
  styles: `
    .candidates {
      display: grid;
      grid-template-columns: repeat(3, minmax(0, 1fr));
      max-height: 220px;
      overflow: auto;
      margin: 10px 0;
      font-size: 14px;
    }
    .candidates .check {
      padding-top: 2px;
    }
    .entry {
      display: inline-block;
      width: auto;
      margin: 0 0 0 6px;
    }
  `,
})
export class PeoplePicker {
  readonly people = input.required<readonly PersonRow[]>();
  /** Those who are not offered. */
  readonly except = input<ReadonlySet<string>>(new Set());
  readonly label = input('People to choose');
  readonly from = model('');
  readonly chosen = model<ReadonlySet<string>>(new Set());
  protected readonly text = signal('');
  protected readonly shown = computed(() => {
    const wanted = this.text().toLowerCase();
    return this.people().filter(
      (person) =>
        !this.except().has(person.id) &&
        (!person.left || person.left >= this.from()) &&
        `${person.name} ${person.job} ${person.department}`.toLowerCase().includes(wanted),
    );
  });

  protected toggle(id: string): void {
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  protected all(): void {
    this.chosen.update((chosen) => new Set([...chosen, ...this.shown().map((person) => person.id)]));
  }
}
