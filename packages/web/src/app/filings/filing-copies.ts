import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Copy, FilingView } from '@woodruff/contract';
import { Api } from '../api/api';
import { MoneyPipe } from '../kit/words';
import { selectMayPrepare } from '../session/session.store';
import { CopyMarks } from './copy-marks';

/** What people are given: the first boxes of everybody, all of one on opening, and what must be fixed before. */
@Component({
  selector: 'wr-filing-copies',
  imports: [CopyMarks, MoneyPipe, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="row-of">
      <button type="button" class="quiet" [class.on]="!onlyOpen()" (click)="onlyOpen.set(false)">
        Everyone {{ filing().copies.length }}
      </button>
      <button type="button" class="quiet" [class.on]="onlyOpen()" (click)="onlyOpen.set(true)">To fix {{ open() }}</button>
      <a class="quiet right" [href]="all()">Draft print of all (PDF)</a>
    </p>
    <table class="lines">
      <thead>
        <tr>
          <th>Person</th>
          <th>Number</th>
          @for (box of first(); track box) {
            <th class="num">Box {{ box }}</th>
          }
          <th class="num">Others</th>
          <th></th>
        </tr>
      </thead>
      @for (copy of shown(); track copy.personId) {
        <tr [class.on]="chosen() === copy.personId">
          <td>
            <button class="opens" type="button" (click)="choose(copy)" [attr.aria-expanded]="chosen() === copy.personId">
              {{ copy.name }}
            </button>
          </td>
          <td [class.attention]="!copy.number">{{ copy.number ?? 'missing' }}</td>
          @for (box of first(); track box) {
            <td class="num">
              <button class="opens" type="button" (click)="openBox(copy, box)">{{ amount(copy, box) | money: 'dash' }}</button>
            </td>
          }
          <td class="num muted">{{ copy.boxes.length - first().length }}</td>
          <td class="num">
            @if (copy.checks.length) {
              <span class="attention">◇ {{ copy.checks.length }}</span>
            }
          </td>
        </tr>
        @if (chosen() === copy.personId) {
          <tr>
            <td [attr.colspan]="first().length + 4" class="more">
              @for (check of copy.checks; track check.code) {
                <p class="notice">{{ check.sentence }} <a [routerLink]="['/people', copy.personId]">Go to the person</a></p>
              }
              <div class="boxes">
                @for (box of copy.boxes; track box.box) {
                  <span class="muted">{{ box.box }}</span><span>{{ box.label }}</span
                  ><span class="num"
                    ><button class="opens" type="button" (click)="openBox(copy, box.box)">{{ box.amount | money }}</button></span
                  >
                }
                @for (mark of copy.marks; track mark.box) {
                  <span class="muted">{{ mark.box }}</span><span>{{ mark.label }}</span
                  ><span class="num">{{ mark.text }}</span>
                }
              </div>
              @if (filing().copyOf?.marks?.length && may()) {
                <wr-copy-marks [filing]="filing()" [copy]="copy" (saved)="changed.emit()" />
              }
              <a class="quiet" [href]="pdfOf(copy.personId)">Draft print (PDF)</a>
            </td>
          </tr>
        }
      } @empty {
        <tr>
          <td class="muted" [attr.colspan]="first().length + 4">
            {{ onlyOpen() ? 'Nothing is left to fix.' : 'Nobody was paid in this period.' }}
          </td>
        </tr>
      }
    </table>
  `,
  styles: `
    .boxes {
      display: grid;
      grid-template-columns: 100px minmax(0, 360px) 120px;
      gap: 3px 14px;
      margin: 6px 0 12px;
    }
    td.more {
      background: var(--sheet);
      padding: 10px 16px;
    }
  `,
})
export class FilingCopies {
  private readonly api = inject(Api);
  readonly filing = input.required<FilingView>();
  /** A box of somebody, to be opened to its payslips. */
  readonly opened = output<{ copy: Copy; box: Copy['boxes'][number] }>();
  /** A box was marked by hand. */
  readonly changed = output();
  protected readonly may = inject(Store).selectSignal(selectMayPrepare);
  protected readonly onlyOpen = signal(false);
  protected readonly chosen = signal('');
  protected readonly first = computed(() => this.filing().copyOf?.first ?? []);
  protected readonly open = computed(() => this.filing().copies.filter((copy) => copy.checks.length).length);
  protected readonly shown = computed(() => this.filing().copies.filter((copy) => !this.onlyOpen() || copy.checks.length));
  private readonly at = computed(() => ({ path: { filing: this.filing().filing, period: this.filing().period.key } }));
  protected readonly all = computed(() => this.api.url('copiesPdf', this.at()));

  protected amount(copy: Copy, box: string): number {
    return copy.boxes.find((candidate) => candidate.box === box)?.amount ?? 0;
  }

  protected choose(copy: Copy): void {
    this.chosen.update((id) => (id === copy.personId ? '' : copy.personId));
  }

  protected openBox(copy: Copy, name: string): void {
    const box = copy.boxes.find((candidate) => candidate.box === name);
    if (box) this.opened.emit({ copy, box });
  }

  protected pdfOf(person: string): string {
    return this.api.url('copiesPdf', { ...this.at(), query: { person } });
  }
}
