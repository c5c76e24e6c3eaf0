import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { AssessedLeaveView, Person, PersonLawLeaves, ProblemDetail } from '@woodruff/contract';
import { catchError, combineLatest, of, switchMap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectMayPrepare } from '../session/session.store';
import { FigureWorking } from '../working/figure-working';

type Kind = PersonLawLeaves['kinds'][number];
type Leave = PersonLawLeaves['leaves'][number];

/** Leave that the law knows and pays: its tests with their reasons and its weeks, before it is put on file and after. */
@Component({
  selector: 'wr-person-leave-by-law',
  imports: [DayPipe, FigureWorking, FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (kinds().length) {
      <h3>
        Statutory leave
        @if (mayPrepare() && !asking()) {
          <button class="quiet" type="button" (click)="begin()">Enter a leave</button>
        }
      </h3>
      @if (asking()) {
        <form class="panel-form" (ngSubmit)="assess()">
          <div class="form">
            <label class="field"
              >Leave
              <select name="kind" [ngModel]="kind()" (ngModelChange)="choose($event)">
                @for (one of kinds(); track one.code) {
                  <option [value]="one.code">{{ one.label }}</option>
                }
              </select>
            </label>
            <label class="field"
              >First day <input type="date" name="from" [(ngModel)]="draft.from" (ngModelChange)="assessed.set(null)"
            /></label>
            <label class="field"
              >Last day <input type="date" name="to" [(ngModel)]="draft.to" (ngModelChange)="assessed.set(null)"
            /></label>
            @for (field of chosen()?.fields ?? []; track field.key) {
              <label class="field" [for]="'leave-' + field.key"
                >{{ field.label }}
                @if (field.kind === 'choice') {
                  <select
                    [id]="'leave-' + field.key"
                    [name]="field.key"
                    [(ngModel)]="about[field.key]"
                    (ngModelChange)="assessed.set(null)"
                  >
                    @for (choice of field.choices ?? []; track choice.value) {
                      <option [value]="choice.value">{{ choice.label }}</option>
                    }
                  </select>
                } @else {
                  <input
                    [id]="'leave-' + field.key"
                    [type]="field.kind === 'date' ? 'date' : 'text'"
                    [name]="field.key"
                    [(ngModel)]="about[field.key]"
                    (ngModelChange)="assessed.set(null)"
                  />
                }
                @if (field.help) {
                  <small>{{ field.help }}</small>
                }
              </label>
            }
          </div>
          <label class="check"
            ><input type="checkbox" name="paysOn" [(ngModel)]="paysOn" /> Ordinary pay goes on; else a salary and ordinary hours are paid
            for the other weekdays</label
          >
          <wr-problem [problem]="problem()" />
          @if (!assessed()) {
            <div class="form-actions">
              <button class="main-action" type="submit">See what the law says</button>
              <button class="quiet" type="button" (click)="asking.set(false)">Cancel</button>
            </div>
          }
        </form>
      }
      @for (shown of shownLeaves(); track shown.id) {
        <article [class.ended]="shown.undone !== null" [attr.aria-label]="shown.label + ' leave'">
          @if (shown.id) {
            <p class="line">
              <strong>{{ shown.label }}, {{ shown.from | day }} – {{ shown.to | day }}</strong>
              @if (shown.undone !== null) {
                <span class="muted">taken back: {{ shown.undone }}</span>
              } @else if (shown.assessed.entitled) {
                <span>paid {{ shown.paid | money }}, {{ shown.waiting | money }} waits for the runs to come</span>
              } @else {
                <span class="attention">not paid by law</span>
              }
              <button class="quiet" type="button" [attr.aria-expanded]="open() === shown.id" (click)="toggle(shown.id)">
                {{ open() === shown.id ? 'Close' : 'Tests and weeks' }}
              </button>
              @if (!shown.assessed.entitled && shown.undone === null) {
                <a class="quiet" [href]="api.url('lawLeaveRefusal', { path: { id: person().id, leave: shown.id } })" target="_blank"
                  >{{ shown.refusal ?? 'Letter' }} with the reasons</a
                >
              }
              @if (mayPrepare() && shown.undone === null) {
                <button class="quiet" type="button" (click)="change(shown.id, shown.to)">Change</button>
              }
            </p>
          }
          @if (changing() === shown.id && shown.id) {
            <form class="panel-form" (ngSubmit)="end(shown)">
              <div class="form">
                <label class="field">Last day <input type="date" name="end" [(ngModel)]="ends" /></label>
                <label class="field">Why it is taken back <input name="why" [(ngModel)]="why" placeholder="only to take it back" /></label>
              </div>
              <wr-problem [problem]="problem()" />
              <div class="form-actions">
                <button class="main-action" type="submit">Save the last day</button>
                <button class="quiet" type="button" (click)="undo(shown)">Take the leave back</button>
                <button class="quiet" type="button" (click)="changing.set('')">Cancel</button>
              </div>
            </form>
          }
          @if (open() === shown.id || !shown.id) {
            <ul class="tests">
              @for (test of shown.assessed.tests; track test.sentence) {
                <li [class.attention]="!test.holds">{{ test.holds ? '●' : '○' }} {{ test.sentence }}{{ test.holds ? '' : ': not so' }}</li>
              }
            </ul>
            @if (shown.assessed.parts.length) {
              <div class="weeks" tabindex="0" role="region" [attr.aria-label]="'Weeks of ' + shown.label">
                <table class="lines">
                  <tr>
                    <th>Paid</th>
                    <th>For</th>
                    <th class="num">Amount</th>
                  </tr>
                  @for (part of shown.assessed.parts; track part.from) {
                    <tr>
                      <td>{{ part.label }}</td>
                      <td>{{ part.from | day: 'short' }} – {{ part.to | day: 'short' }}</td>
                      <td class="num">
                        <button
                          class="opens"
                          type="button"
                          [attr.aria-label]="part.label + ', how it came about'"
                          (click)="key.set(part.key)"
                        >
                          {{ part.amount | money }}
                        </button>
                      </td>
                    </tr>
                  }
                  <tr class="sum">
                    <td>Together</td>
                    <td></td>
                    <td class="num">{{ shown.assessed.total | money }}</td>
                  </tr>
                </table>
              </div>
            }
            @if (shown.assessed.workings[key()]; as working) {
              <wr-figure-working
                [working]="working"
                [workings]="shown.assessed.workings"
                [personId]="person().id"
                (opened)="key.set($event)"
              />
            }
          }
          @if (!shown.id) {
            <div class="form-actions">
              <button class="main-action" type="button" (click)="save()">
                {{ shown.assessed.entitled ? 'Put it on file and pay it' : 'Put it on file, not paid' }}
              </button>
              <button class="quiet" type="button" (click)="asking.set(false)">Cancel</button>
            </div>
          }
        </article>
      } @empty {
        @if (!asking()) {
          <p class="muted">No leave of the law is on file.</p>
        }
      }
    }
  `,
  styleUrl: './person-part.scss',
  styles: `
    h3 {
      display: flex;
      align-items: baseline;
      margin: 18px 0 6px;
    }
    .line {
      display: flex;
      gap: 14px;
      flex-wrap: wrap;
      align-items: baseline;
      margin: 8px 0;
    }
    .tests {
      list-style: none;
      padding: 0;
      margin: 8px 0;
    }
    wr-figure-working {
      display: block;
      max-width: 560px;
      margin: 14px 0;
    }
    .weeks {
      max-height: 330px;
      overflow-y: auto;
      max-width: 560px;
    }
  `,
})
export class PersonLeaveByLaw {
  private readonly store = inject(Store);
  protected readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly again = signal(0);
  private readonly data = toSignal(
    combineLatest([toObservable(computed(() => this.person().id)), toObservable(this.again)]).pipe(
      switchMap(([id]) => this.api.call('lawLeaves', { path: { id } }).pipe(catchError(() => of(null)))),
    ),
    { initialValue: null },
  );
  protected readonly kinds = computed((): Kind[] => this.data()?.kinds ?? []);
  protected readonly asking = signal(false);
  protected readonly kind = linkedSignal(() => this.kinds()[0]?.code ?? '');
  protected readonly chosen = computed(() => this.kinds().find(({ code }) => code === this.kind()));
  protected readonly assessed = signal<AssessedLeaveView | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly open = signal('');
  protected readonly changing = signal('');
  protected readonly key = signal('');
  protected draft = { from: '', to: '' };
  protected about: Record<string, string> = {};
  protected paysOn = false;
  protected ends = '';
  protected why = '';

  /** What is only assessed stands first, without a number of its own. */
  protected readonly shownLeaves = computed(() => {
    const labelled = (leave: Omit<Leave, 'by' | 'at' | 'about' | 'paysOn'>) => {
      const of = this.kinds().find(({ code }) => code === leave.kind);
      return { ...leave, label: of?.label ?? leave.kind, refusal: of?.refusal ?? null };
    };
    const assessed = this.assessed();
    const draft = { id: '', version: 0, kind: this.kind(), ...this.draft, paid: 0, waiting: 0, undone: null };
    return [
      ...(this.asking() && assessed ? [labelled({ ...draft, assessed })] : []),
      ...(this.data()?.leaves ?? []).map((leave) => labelled(leave)),
    ];
  });

  protected begin(): void {
    this.assessed.set(null);
    this.problem.set(null);
    this.asking.set(true);
    this.choose(this.kind());
  }

  protected choose(kind: string): void {
    this.kind.set(kind);
    this.assessed.set(null);
    this.about = Object.fromEntries((this.chosen()?.fields ?? []).map((field) => [field.key, field.choices?.[0]?.value ?? '']));
  }

  protected toggle(id: string): void {
    this.key.set('');
    this.open.set(this.open() === id ? '' : id);
  }

  protected change(id: string, to: string): void {
    this.problem.set(null);
    this.ends = to;
    this.why = '';
    this.changing.set(id);
  }

  private get body() {
    const about = Object.fromEntries(Object.entries(this.about).filter(([, value]) => value !== ''));
    return { kind: this.kind(), ...this.draft, about, paysOn: this.paysOn };
  }

  protected assess(): void {
    this.problem.set(null);
    this.key.set('');
    this.api.call('assessLawLeave', { path: { id: this.person().id }, body: this.body }).subscribe({
      next: (assessed) => this.assessed.set(assessed),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected save(): void {
    this.api.call('addLawLeave', { path: { id: this.person().id }, body: this.body }).subscribe(this.done(() => this.asking.set(false)));
  }

  protected end({ id, version }: Pick<Leave, 'id' | 'version'>): void {
    this.api
      .call('endLawLeave', { path: { id: this.person().id, leave: id }, body: { version, to: this.ends } })
      .subscribe(this.done(() => this.changing.set('')));
  }

  protected undo({ id, version }: Pick<Leave, 'id' | 'version'>): void {
    this.api
      .call('undoLawLeave', { path: { id: this.person().id, leave: id }, body: { version, reason: this.why } })
      .subscribe(this.done(() => this.changing.set('')));
  }

  private done(then: () => void) {
    return {
      next: () => {
        then();
        this.again.update((times) => times + 1);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    };
  }
}
