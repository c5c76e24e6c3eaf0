import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { HttpClient } from '@angular/common/http';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { COPIES_AT_ONCE, type BodyOf, type CopiesGiven, type FilingView, type ProblemDetail } from '@woodruff/contract';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe } from '../kit/words';
import { selectMayPrepare } from '../session/session.store';

type How = BodyOf<'giveCopies'>['how'];
const WAYS: Record<How, string> = { inbox: 'own view', mail: 'mail', paper: 'paper' };

/** Final statements on their way to people: printed, given electronically to who agreed to it, handed over. */
@Component({
  selector: 'wr-copies-given',
  imports: [CountedPipe, DayPipe, FormsModule, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Given to people
      <span class="muted">{{ given() ? done() + ' of ' + given()?.people?.length : '' }}</span>
    </h2>
    @if (!given()) {
      <p class="muted">Drafts can be printed at any time. Statements are given out once they are prepared: then each has its number.</p>
    } @else {
      <p class="row-of">
        <label
          >On a page
          <select class="entry" name="each" [(ngModel)]="each">
            <option [ngValue]="1">one copy</option>
            <option [ngValue]="2">two copies</option>
            <option [ngValue]="4">four copies</option>
          </select></label
        >
        <label
          >In order of
          <select class="entry" name="order" [(ngModel)]="order">
            <option value="name">name</option>
            <option value="number">number</option>
            <option value="department">department</option>
            <option value="postcode">postcode</option>
          </select></label
        >
        @if (portions().length < 2) {
          <a class="quiet" [href]="print(false)">Print all (PDF)</a>
          <a class="quiet" [href]="print(true)">Print who gets paper (PDF)</a>
        }
      </p>
      @if (portions().length > 1) {
        <p class="row-of">
          <span class="muted">Printed {{ atOnce }} at a time:</span>
          @for (part of portions(); track part) {
            <a class="quiet" [href]="print(false, part)">{{ (part - 1) * atOnce + 1 }} on</a>
          }
          <button class="quiet" type="button" (click)="saveAll()" [disabled]="saved() > 0">Save all of them</button>
          @if (saved()) {
            <span role="status">{{ saved() - 1 }} of {{ portions().length }} saved</span>
          }
        </p>
      }
      @if (may()) {
        <p class="row-of">
          @if (waiting('inbox'); as count) {
            <button class="quiet" type="button" (click)="give('inbox')">Give {{ count }} to their own view</button>
          }
          @if (waiting('mail'); as count) {
            <button class="quiet" type="button" (click)="give('mail')">Mail {{ count }} under a password</button>
          }
          @if (waiting('paper'); as count) {
            <button class="quiet" type="button" (click)="give('paper')">Record {{ count }} as handed over on paper</button>
          }
        </p>
      }
      <wr-problem [problem]="problem()" />
      @if (said()) {
        <p role="status">{{ said() }}</p>
      }
      <table class="lines">
        @for (one of shown(); track one.personId) {
          <tr>
            <td>
              <a [routerLink]="['/people', one.personId]">{{ one.name }}</a>
            </td>
            <td class="num muted">{{ one.control }}</td>
            <td>
              @for (way of one.given; track way.how) {
                {{ ways[way.how] }}, {{ way.on | day: 'short' }}
              } @empty {
                <span class="attention">not given</span>
              }
            </td>
            <td class="muted">
              {{
                one.electronic
                  ? 'electronically'
                  : one.consent?.step === 'asked'
                    ? 'asked, no answer yet'
                    : one.consent?.step === 'withdrawn'
                      ? 'withdrew the consent'
                      : 'on paper'
              }}
            </td>
            <td class="acts">
              @if (may()) {
                @if (one.electronic) {
                  <button class="quiet" type="button" (click)="consent(one.personId, 'withdrawn')">Withdrawn</button>
                } @else {
                  <button class="quiet" type="button" (click)="consent(one.personId, 'asked')">Ask</button>
                  <button class="quiet" type="button" (click)="consent(one.personId, 'given')">Agreed in writing</button>
                }
              }
            </td>
          </tr>
        }
      </table>
      @if ((given()?.people?.length ?? 0) > shown().length) {
        <button class="quiet" type="button" (click)="all.set(true)">
          {{ given()?.people?.length ?? 0 | counted: 'person' : 'people' }} in all
        </button>
      }
    }
  `,
  styleUrl: '../kit/heading-with-state.scss',
  styles: `
    .row-of {
      align-items: end;
    }
    .row-of > button {
      margin-left: 0;
    }
    .acts {
      text-align: right;
      white-space: nowrap;
    }
  `,
})
export class CopiesGivenPart {
  private readonly api = inject(Api);
  private readonly http = inject(HttpClient);
  private readonly store = inject(Store);
  readonly filing = input.required<FilingView>();
  protected readonly given = signal<CopiesGiven | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly said = signal('');
  protected readonly may = this.store.selectSignal(selectMayPrepare);
  protected readonly all = signal(false);
  protected readonly shown = computed(() => (this.all() ? this.given()?.people : this.given()?.people.slice(0, 12)) ?? []);
  protected readonly done = computed(() => this.given()?.people.filter((one) => one.given.length).length ?? 0);
  protected readonly ways = WAYS;
  protected readonly atOnce = COPIES_AT_ONCE;
  protected readonly portions = computed(() =>
    Array.from({ length: Math.ceil((this.given()?.people.length ?? 0) / COPIES_AT_ONCE) }, (_, index) => index + 1),
  );
  /** Portions that were begun to be saved. */
  protected readonly saved = signal(0);
  protected each: 1 | 2 | 4 = 2;
  protected order: 'name' | 'number' | 'department' | 'postcode' = 'name';
  private readonly corrects = computed(() =>
    Boolean(
      this.given() && this.filing().events.some(({ attempt, step }) => step === 'accepted' && attempt < (this.given()?.attempt ?? 0)),
    ),
  );

  constructor() {
    effect(() => {
      this.filing();
      this.load();
    });
  }

  /** Whom a way still fits: paper is for those who were given theirs in no other way. */
  protected waiting(how: How): number {
    return (this.given()?.people ?? []).filter(({ electronic, email, given }) =>
      how === 'paper' ? !given.length : electronic !== null && !given.some((one) => one.how === how) && (how === 'inbox' || email !== null),
    ).length;
  }

  /** Fetches one portion after another and saves it, so that nobody waits for one large file. */
  protected async saveAll(): Promise<void> {
    for (const part of this.portions()) {
      this.saved.set(part);
      const file = await firstValueFrom(this.http.get(this.print(false, part), { responseType: 'blob' }));
      const link = document.createElement('a');
      link.href = URL.createObjectURL(file);
      link.download = `${this.filing().filing}-${this.filing().period.key}-${part}.pdf`;
      link.click();
      URL.revokeObjectURL(link.href);
    }
    this.saved.set(this.portions().length + 1);
  }

  protected print(paper: boolean, part?: number): string {
    const attempt = this.given()?.attempt ?? undefined;
    const query = {
      each: this.each,
      order: this.order,
      corrected: String(this.corrects()),
      paper: String(paper),
      ...(attempt ? { attempt } : {}),
      ...(part ? { part } : {}),
    };
    return this.api.url('copiesPdf', { ...this.at(), query });
  }

  protected give(how: How): void {
    this.api.call('giveCopies', { ...this.at(), body: { how } }).subscribe({
      next: ({ given }) => {
        this.said.set(`${given} given: ${WAYS[how]}.`);
        this.load();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected consent(id: string, step: BodyOf<'formConsent'>['step']): void {
    const means = { asked: 'by letter', given: 'in writing', withdrawn: 'in writing' }[step];
    this.api.call('formConsent', { path: { id }, body: { step, means } }).subscribe({
      next: () => this.load(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private load(): void {
    this.api.call('copiesGiven', this.at()).subscribe({
      next: (given) => {
        this.problem.set(null);
        this.given.set(given.attempt === null ? null : given);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private at() {
    return { path: { filing: this.filing().filing, period: this.filing().period.key } };
  }
}
