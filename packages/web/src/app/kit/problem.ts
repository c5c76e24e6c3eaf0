import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { ProblemDetail } from '@woodruff/contract';

/** What went wrong and what to do, with the fields at fault and what has changed meanwhile. */
@Component({
  selector: 'wr-problem',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (problem(); as problem) {
      <div class="notice" [class.bad]="problem.code !== 'held'" role="alert">
        {{ problem.detail }}
        @for (change of problem.changed; track $index) {
          <div>{{ change.who }}: {{ change.what }}</div>
        }
        @if ((problem.fields?.length ?? 0) > 1) {
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
}
