import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { LeaveBalancesRead, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { chosenFile, type ReadAs, type SentFile } from '../kit/chosen-file';
import { Problem } from '../kit/problem';
import { hoursWords } from './leave-words';
import { CountedPipe } from '../kit/words';

/** Balances of leave brought along from elsewhere: read from a file, looked at, and posted as they differ. */
@Component({
  selector: 'wr-leave-balances-file',
  imports: [CountedPipe, FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="panel-form">
      <p class="muted">
        A CSV or XLSX file with the columns person, plan and balance_hours, as they go out too. What differs from the balances on file is
        posted, without paying anything; the same file again changes nothing.
      </p>
      <div class="row-of">
        <label
          >Balances as of <input class="entry date" type="date" name="date" [ngModel]="date()" (ngModelChange)="date.set($event)"
        /></label>
        <label class="file"
          ><input
            type="file"
            class="visually-hidden"
            accept=".csv,.xlsx,text/csv"
            aria-label="File of balances"
            (change)="choose($any($event.target))"
          /><span class="quiet">{{ name() || 'Choose a file …' }}</span></label
        >
      </div>
      @if (read(); as read) {
        @if (read.problemCount) {
          <p class="notice bad" role="alert">
            {{ read.problemCount === 1 ? 'One cell is' : read.problemCount + ' cells are' }} not taken. Fix the file and choose it again.
          </p>
          <table class="lines">
            @for (fault of read.problems; track $index) {
              <tr>
                <td>Row {{ fault.row }}, {{ fault.column }}</td>
                <td>{{ fault.value || 'empty' }}</td>
                <td>expected: {{ fault.remedy }}</td>
              </tr>
            }
          </table>
        } @else {
          <p role="status">
            {{ read.changed === 1 ? 'One balance changes' : read.changed + ' balances change' }}, {{ read.unchanged }} stay.
          </p>
          <table class="lines">
            @for (change of read.changes; track $index) {
              <tr>
                <td>{{ change.name }}</td>
                <td>{{ change.plan }}</td>
                <td class="num">{{ hours(change.before) }}</td>
                <td class="num">{{ hours(change.after) }} hours</td>
              </tr>
            }
          </table>
        }
      }
      <wr-problem [problem]="problem()" (answered)="look($event)" />
      <div class="form-actions">
        @if (read()?.changed && !read()?.problemCount) {
          <button class="main-action" type="button" (click)="post()">Post {{ read()!.changed | counted: 'balance' : 'balances' }}</button>
        }
        <button class="quiet" type="button" (click)="left.emit()">Close</button>
      </div>
    </div>
  `,
  styles: `
    .date {
      display: inline-block;
      width: auto;
      margin: 0 0 0 6px;
    }
    .file {
      position: relative;
      cursor: pointer;
    }
    p.muted {
      margin: 0 0 8px;
    }
    .notice {
      margin: 10px 0;
    }
  `,
})
export class LeaveBalancesFile {
  private readonly api = inject(Api);
  /** The day that is proposed. */
  readonly day = input.required<string>();
  readonly posted = output();
  readonly left = output();
  protected readonly hours = hoursWords;
  protected readonly date = linkedSignal(() => this.day());
  private readonly file = signal<SentFile | null>(null);
  protected readonly name = computed(() => this.file()?.name ?? '');
  protected readonly read = signal<LeaveBalancesRead | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);

  protected async choose(chooser: HTMLInputElement): Promise<void> {
    this.file.set((await chosenFile(chooser)) ?? this.file());
    this.look({});
  }

  protected look(readAs: ReadAs): void {
    const file = this.file();
    if (!file) return;
    this.file.set({ ...file, ...readAs });
    this.ask(this.api.call('checkLeaveBalances', { body: this.body() }), (read) => this.read.set(read));
  }

  protected post(): void {
    this.ask(this.api.call('importLeaveBalances', { body: this.body() }), () => this.posted.emit());
  }

  private body() {
    return { ...(this.file() ?? { name: '', content: '' }), date: this.date() };
  }

  private ask(request: Observable<LeaveBalancesRead>, then: (read: LeaveBalancesRead) => void): void {
    this.problem.set(null);
    this.read.set(null);
    request.subscribe({ next: then, error: (error: unknown) => this.problem.set(problemOf(error)) });
  }
}
