import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { ProblemDetail } from '@woodruff/contract';
import { waysToRead, type ReadAs } from './chosen-file';

/** What went wrong and what to do, with the fields at fault and what has changed meanwhile; or how a file is to be read. */
@Component({
  selector: 'wr-problem',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (problem(); as problem) {
      <div class="notice" [class.bad]="problem.code !== 'held'" role="alert">
        {{ ways().length ? question(problem) : problem.detail }}
        @for (way of ways(); track way.words) {
          <button class="quiet" type="button" (click)="answered.emit(way.readAs)">{{ way.words }}</button>
        }
        @for (change of problem.changed; track $index) {
          <div>{{ change.who }}: {{ change.what }}</div>
        }
        @if (!ways().length && (problem.fields?.length ?? 0) > 1) {
          @for (field of problem.fields; track $index) {
            <div>{{ field.path }}: {{ field.expected }}</div>
          }
        }
      </div>
    }
  `,
})
export class Problem {
  readonly problem = input<ProblemDetail | null>(null);
  /** Said where a file could be read in several ways. */
  readonly answered = output<ReadAs>();
  protected readonly ways = computed(() => waysToRead(this.problem()));

  /** The first sentence asks; what follows in the detail are the ways, which stand as buttons. */
  protected question({ code }: ProblemDetail): string {
    return code === 'which-date'
      ? 'The file has dates that can be read in two ways. Which is right?'
      : 'The file is not saved as UTF-8, so its letters can be read in several ways. Which is right?';
  }
}
