import { ChangeDetectionStrategy, Component, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { agencyStore } from './filings.store';

/** The stand-in for the agencies: files it was handed, and how it answers. */
@Component({
  selector: 'wr-agency-page',
  imports: [DayPipe, FormsModule, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Agencies</h1>
        <a class="quiet right" routerLink="/filings">Returns</a>
      </div>
      <p class="muted">
        A stand-in for the agencies, which ships with the product. It reads the files that it is handed with readers of its own, and accepts
        or rejects them. A real connection takes its place.
      </p>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (said()) {
        <p role="status">{{ said() }}</p>
      }
      @if (data(); as agency) {
        <section class="section">
          <h2>Files handed in</h2>
          <table class="lines">
            @for (file of agency.files; track $index) {
              <tr>
                <td>{{ file.on | day: 'short' }}</td>
                <td>{{ file.name }}</td>
                <td>{{ file.agency }}</td>
                <td class="muted">{{ file.number }}</td>
                <td [class.error]="file.faults.length">
                  {{ file.status }}
                  @for (fault of file.faults; track $index) {
                    <div>{{ fault.code }}: {{ fault.text }}</div>
                  }
                </td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">None yet. A return that is filed by file stands here.</td>
              </tr>
            }
          </table>
        </section>
        @if (may()) {
          <section class="section">
            <h2>How they answer</h2>
            <form class="row-of" (ngSubmit)="save()">
              <label>Days until an answer <input class="entry" name="days" inputmode="numeric" [(ngModel)]="draft.days" /></label>
              <label
                >They know our number as
                <input class="entry" name="knownAs" [(ngModel)]="draft.knownAs" placeholder="whatever they are told"
              /></label>
              <label class="check"><input type="checkbox" name="doubles" [(ngModel)]="draft.doubles" /> Everything is said twice</label>
              <label class="check"><input type="checkbox" name="loses" [(ngModel)]="draft.loses" /> The first answer gets lost</label>
              <button class="quiet" type="submit">Set it</button>
            </form>
          </section>
        }
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    form {
      align-items: end;
      margin-top: 8px;
    }
  `,
})
export class AgencyPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(agencyStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(agencyStore.selectProblem);
  protected readonly may = this.store.selectSignal(selectMay('administer'));
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly said = signal('');
  protected draft = { days: '0', knownAs: '', doubles: false, loses: false };

  constructor() {
    effect(() => {
      if (this.employer()?.today) this.load();
    });
    effect(() => {
      const agency = this.data();
      if (!agency) return;
      const { answersAfter, knownAs, doubles, loses } = agency;
      this.draft = { days: String(answersAfter), knownAs, doubles, loses };
    });
  }

  protected save(): void {
    const { days, ...rest } = this.draft;
    this.problem.set(null);
    this.api.call('setAgency', { body: { answersAfter: Number(days), ...rest } }).subscribe({
      next: () => {
        this.said.set('Set.');
        this.load();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private load(): void {
    this.store.dispatch(agencyStore.load({ input: {}, keep: true }));
  }
}
