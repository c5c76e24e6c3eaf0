import { ChangeDetectionStrategy, Component, computed, effect, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Copy } from '@woodruff/contract';
import { CountedPipe } from '../kit/words';

type Whom = 'everybody' | 'without' | 'only';

/** Of whom a filing is prepared that can be filed for some: who has something to be fixed is held back, others by choice. */
@Component({
  selector: 'wr-held-back',
  imports: [CountedPipe, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="field"
      >For
      <select name="whom" [ngModel]="whom()" (ngModelChange)="whom.set($event)">
        <option value="everybody">everybody who is ready</option>
        <option value="without">everybody who is ready, without …</option>
        <option value="only">only …</option>
      </select>
    </label>
    @if (whom() !== 'everybody') {
      <label class="field"
        >{{ whom() === 'only' ? 'Only' : 'Without' }}
        <select name="person" #chooser (change)="add(chooser.value); chooser.value = ''">
          <option value="">choose a person</option>
          @for (copy of left(); track copy.personId) {
            <option [value]="copy.personId">{{ copy.name }}</option>
          }
        </select>
      </label>
      <ul>
        @for (copy of picked(); track copy.personId) {
          <li>
            {{ copy.name }}
            <button class="quiet" type="button" (click)="drop(copy.personId)" [attr.aria-label]="'Take ' + copy.name + ' off'">
              Remove
            </button>
          </li>
        }
      </ul>
    }
    <p [class.attention]="!prepared()">
      {{ prepared() | counted: 'statement is' : 'statements are' }} prepared{{
        held() ? ', ' + (held() | counted: 'person is' : 'people are') + ' held back and can follow later' : ''
      }}.
    </p>
    @if (stopped().length) {
      <p class="muted">Until it is fixed, under “To fix”: {{ names() }}.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    p,
    ul {
      margin: 0;
    }
    ul:empty {
      display: none;
    }
  `,
})
export class HeldBack {
  readonly copies = input.required<Copy[]>();
  readonly without = model<string[]>([]);
  protected readonly whom = signal<Whom>('everybody');
  private readonly chosen = signal<readonly string[]>([]);
  protected readonly stopped = computed(() => this.copies().filter(({ checks }) => checks.some(({ weight }) => weight === 'stop')));
  private readonly ready = computed(() => this.copies().filter((copy) => !this.stopped().includes(copy)));
  protected readonly picked = computed(() => this.ready().filter(({ personId }) => this.chosen().includes(personId)));
  protected readonly left = computed(() => this.ready().filter(({ personId }) => !this.chosen().includes(personId)));
  protected readonly held = computed(() => this.byChoice().length + this.stopped().length);
  protected readonly prepared = computed(() => this.copies().length - this.held());
  protected readonly names = computed(() => {
    const stopped = this.stopped().map(({ name }) => name);
    return stopped.slice(0, 6).join('; ') + (stopped.length > 6 ? ` and ${stopped.length - 6} more` : '');
  });
  private readonly byChoice = computed(() => {
    const whom = this.whom();
    return (whom === 'everybody' ? [] : whom === 'only' ? this.left() : this.picked()).map(({ personId }) => personId);
  });

  constructor() {
    effect(() => this.without.set(this.byChoice()));
  }

  protected add(personId: string): void {
    if (personId) this.chosen.update((chosen) => [...chosen, personId]);
  }

  protected drop(personId: string): void {
    this.chosen.update((chosen) => chosen.filter((one) => one !== personId));
  }
}
