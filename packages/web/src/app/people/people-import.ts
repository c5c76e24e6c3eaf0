import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { counted } from '@woodruff/core';
import { RouterLink } from '@angular/router';
import type { AnswerOf, ImportCheck, ProblemDetail } from '@woodruff/contract';
import { interval, switchMap, takeWhile, type Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { chosenFile, type ReadAs, type SentFile } from '../kit/chosen-file';
import { Problem } from '../kit/problem';
import { CountedPipe } from '../kit/words';

const SHOWN = 60;

/** A file of people: matched, checked cell by cell, and taken whole or not at all. */
@Component({
  selector: 'wr-people-import',
  imports: [CountedPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>{{ earlier() ? 'Import earlier pay' : 'Import people' }}</h1>
        <span class="muted">{{
          earlier()
            ? 'CSV or XLSX; one row for each person and last day of a quarter, a column for each item and tax'
            : 'CSV or XLSX; the first row names the columns, each further row is a person'
        }}</span>
        @if (check(); as check) {
          @if (!done()) {
            <button
              class="main-action"
              type="button"
              [disabled]="!!check.problemCount || !(check.added + check.changed) || importing()"
              (click)="take()"
            >
              {{ actionWords() }}
            </button>
          }
        }
      </div>
      <div class="row-of">
        <label class="file">
          <input
            type="file"
            accept=".csv,.xlsx,text/csv"
            class="visually-hidden"
            [attr.aria-label]="earlier() ? 'File of earlier pay' : 'File of people'"
            (change)="choose($any($event.target))"
          />
          <span class="quiet">{{ name() ? 'Choose another file' : 'Choose a file …' }}</span>
        </label>
        <span>{{ name() }}</span>
        @if (!name()) {
          @if (earlier()) {
            <a class="quiet" routerLink="/people/import">People instead</a>
          } @else {
            <a class="quiet" routerLink="/people/import/earlier-pay">What an earlier system paid them</a>
          }
        }
        @if (checking()) {
          <span class="muted">Reading and checking …</span>
        }
        @if (earlier()) {
          <label class="check right"
            ><input type="checkbox" [checked]="accept()" (change)="acceptAsPaid()" /> The earlier system paid it so, also where it does not
            tie out</label
          >
        } @else {
          <span class="right muted"
            >An example with everybody on file: <a [href]="api.url('peopleXlsx')">XLSX</a>, <a [href]="api.url('peopleCsv')">CSV</a></span
          >
        }
      </div>
      <wr-problem [problem]="problem()" (answered)="readAs($event)" />
      @if (importing()) {
        <p role="status">Importing {{ progress().of ? progress().done + ' of ' + progress().of : '' }} …</p>
        <div
          class="bar-of-progress"
          role="progressbar"
          aria-label="People imported"
          [attr.aria-valuenow]="progress().done"
          [attr.aria-valuemax]="progress().of"
        >
          <div [style.width.%]="progress().of ? (100 * progress().done) / progress().of : 3"></div>
        </div>
      }
      @if (done(); as done) {
        <p class="notice" role="status">
          {{ done.added | counted }} {{ earlier() ? 'entries' : 'people' }} added, {{ done.changed | counted }} changed,
          {{ done.unchanged | counted }} as they were.
          <a routerLink="/people">To the people</a>
        </p>
      }
      @if (check(); as check) {
        @if (!done()) {
          <p class="sum">
            {{ check.rows }} rows:
            @if (check.problemCount) {
              <strong class="error">{{ check.problemCount | counted: 'cell is' : 'cells are' }} not taken</strong>, so nothing is imported
              yet. Fix the file and choose it again, or leave a column out.
            } @else {
              <strong
                >{{ check.added | counted }} new, {{ check.changed | counted }} changed, {{ check.unchanged | counted }} as they
                are.</strong
              >
            }
          </p>
          @if (check.problemCount) {
            <section class="section">
              <h2>What is not taken</h2>
              <table class="lines">
                <tr>
                  <th class="num row">Row</th>
                  <th>Column</th>
                  <th>Value</th>
                  <th>What to do</th>
                </tr>
                @for (found of shownProblems(); track $index) {
                  <tr>
                    <td class="num row">{{ found.row }}</td>
                    <td>{{ found.column }}</td>
                    <td class="error">{{ found.value || 'empty' }}</td>
                    <td>{{ found.remedy }}</td>
                  </tr>
                }
              </table>
              @if (check.problems.length > shownProblems().length) {
                <button type="button" class="quiet" (click)="all.set(true)">
                  Show {{ check.problems.length === check.problemCount ? 'all' : 'the first' }} {{ check.problems.length }}
                </button>
              }
            </section>
          }
          @if (check.changes.length) {
            <section class="section">
              <h2>What changes</h2>
              <table class="lines">
                @for (change of check.changes; track change.row) {
                  <tr>
                    <td class="num row">{{ change.row }}</td>
                    <td>{{ change.name }}</td>
                    <td>{{ change.what }}</td>
                  </tr>
                }
              </table>
              @if (check.added + check.changed > check.changes.length) {
                <p class="muted">and {{ check.added + check.changed - check.changes.length }} more</p>
              }
            </section>
          }
          <section class="section">
            <h2>What the columns hold</h2>
            <table class="lines">
              <tr>
                <th>In the file</th>
                <th>For example</th>
                <th>Taken as</th>
              </tr>
              @for (column of check.columns; track $index; let index = $index) {
                <tr>
                  <td>{{ column.heading || 'without a heading' }}</td>
                  <td class="muted">{{ column.example }}</td>
                  <td>
                    <select [attr.aria-label]="'What ' + column.heading + ' holds'" (change)="match(index, $any($event.target).value)">
                      <option value="" [selected]="!column.key">left out</option>
                      @for (choice of check.choices; track choice.key) {
                        <option [value]="choice.key" [selected]="column.key === choice.key">{{ choice.label }}</option>
                      }
                    </select>
                  </td>
                </tr>
              }
            </table>
            @if (!earlier()) {
              <p class="muted">What is chosen here is remembered for the next file.</p>
            }
          </section>
        }
      }
    </main>
  `,
  styles: `
    .file {
      position: relative;
      cursor: pointer;
    }
    .file:focus-within .quiet {
      outline: 2px solid var(--ochre);
      outline-offset: 2px;
    }
    .sum {
      margin: 14px 0 0;
    }
    table.lines th.row,
    table.lines td.row {
      width: 60px;
      padding-right: 18px;
      padding-left: 0;
    }
    select {
      font: inherit;
      font-size: 14px;
      border: 1px solid #b9b3a4;
      border-radius: 3px;
      background: var(--sheet);
      max-width: 360px;
    }
  `,
})
export class PeopleImport {
  protected readonly api = inject(Api);
  /** From the route: a file of people, or of what an earlier system paid them. */
  readonly holds = input<'people' | 'earlier-pay'>('people');
  protected readonly earlier = computed(() => this.holds() === 'earlier-pay');
  protected readonly accept = signal(false);
  protected readonly name = signal('');
  protected readonly check = signal<ImportCheck | null>(null);
  protected readonly checking = signal(false);
  protected readonly importing = signal(false);
  protected readonly progress = signal({ done: 0, of: 0 });
  protected readonly done = signal<AnswerOf<'importPeople'> | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly all = signal(false);
  protected readonly shownProblems = computed(() => (this.all() ? this.check()?.problems : this.check()?.problems.slice(0, SHOWN)) ?? []);
  protected readonly actionWords = computed(() => {
    const check = this.check();
    if (!check || check.problemCount) return 'Nothing is imported yet';
    const people = check.added + check.changed;
    if (!people) return 'Nothing to import';
    if (this.earlier()) return `Post ${counted(people, 'entry', 'entries')}`;
    return `Import ${counted(people, 'person', 'people')}`;
  });
  private file: SentFile | null = null;
  private columns: (string | null)[] | undefined;

  protected async choose(chooser: HTMLInputElement): Promise<void> {
    const file = await chosenFile(chooser);
    if (!file) return;
    this.file = file;
    this.columns = undefined;
    this.name.set(file.name);
    this.look();
  }

  protected readAs(readAs: ReadAs): void {
    if (!this.file) return;
    this.file = { ...this.file, ...readAs };
    this.look();
  }

  protected match(index: number, key: string): void {
    const columns = this.check()?.columns.map((column) => column.key) ?? [];
    // A column of the record is said by one column of the file: the one chosen last.
    this.columns = columns.map((other, at) => (at === index ? key || null : other === key ? null : other));
    this.look();
  }

  protected take(): void {
    this.importing.set(true);
    this.problem.set(null);
    interval(400)
      .pipe(
        takeWhile(() => this.importing()),
        switchMap(() => this.api.call('importProgress')),
      )
      .subscribe((progress) => this.progress.set(progress));
    this.sent('import').subscribe({
      next: (done) => {
        this.importing.set(false);
        this.done.set(done);
      },
      error: (error: unknown) => {
        this.importing.set(false);
        this.problem.set(problemOf(error));
      },
    });
  }

  private look(): void {
    this.checking.set(true);
    this.problem.set(null);
    this.done.set(null);
    this.sent('check').subscribe({
      next: (check) => {
        this.checking.set(false);
        this.check.set(check);
      },
      error: (error: unknown) => {
        this.checking.set(false);
        this.check.set(null);
        this.problem.set(problemOf(error));
      },
    });
  }

  protected acceptAsPaid(): void {
    this.accept.update((accepted) => !accepted);
    if (this.name()) this.look();
  }

  private sent(what: 'check'): Observable<ImportCheck>;
  private sent(what: 'import'): Observable<AnswerOf<'importPeople'>>;
  private sent(what: 'check' | 'import'): Observable<ImportCheck | AnswerOf<'importPeople'>> {
    const body = this.body();
    if (!this.earlier()) return what === 'check' ? this.api.call('checkImport', { body }) : this.api.call('importPeople', { body });
    const openings = { body: { ...body, acceptDifferences: this.accept() } };
    return what === 'check' ? this.api.call('checkOpenings', openings) : this.api.call('importOpenings', openings);
  }

  private body() {
    return {
      name: this.name(),
      content: this.file?.content ?? '',
      ...(this.columns ? { columns: this.columns } : {}),
      ...(this.file?.encoding ? { encoding: this.file.encoding } : {}),
      ...(this.file?.dates ? { dates: this.file.dates } : {}),
    };
  }
}
