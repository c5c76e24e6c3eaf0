import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { BodyOf, Effect, EnrolmentPage, EnrolmentPerson, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { CountedPipe } from '../kit/words';

type What = BodyOf<'recordEnrolment'>['what'];
export type Act = What['step'];

export const ACTS: Readonly<Record<Act, string>> = {
  enrolled: 'Enrol',
  postponed: 'Postpone',
  exempt: 'Exempt',
  'exempt-no-more': 'Exempt no more',
  'opted-out': 'Opt out',
  ceased: 'End the membership',
  letter: 'Mark a letter as given',
};
const BECAUSE = {
  enrolled: 'the law wants it',
  're-enrolled': 'the law wants it again',
  'opted-in': 'asked to opt in',
  joined: 'asked to join',
  agreed: 'by agreement',
} as const;

/** One step for the people chosen; what it does to the open run is shown before it is recorded. */
@Component({
  selector: 'wr-enrolment-act',
  imports: [CountedPipe, EffectOnRuns, FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="panel-form" (ngSubmit)="effect() || act() === 'letter' ? save() : look()" (input)="forget()" (change)="forget()">
      <p>
        <strong>{{ acts[act()] }}</strong>&ngsp;<span class="muted">{{ names() }}</span>
      </p>
      <div class="form">
        @switch (act()) {
          @case ('enrolled') {
            <label class="field"
              >Scheme
              <select name="scheme" [(ngModel)]="scheme">
                @for (one of page().schemes; track one.id) {
                  <option [value]="one.id">{{ one.name }}</option>
                }
              </select>
            </label>
            <label class="field"
              >Group and rates
              <select name="tier" [(ngModel)]="tier">
                @for (one of tiers(); track one.code) {
                  <option [value]="one.code">{{ one.label }}: {{ one.employee }} % own, {{ one.employer }} % employer</option>
                }
              </select>
            </label>
            <label class="field"
              >Because
              <select name="because" [(ngModel)]="because">
                @for (one of reasons; track one[0]) {
                  <option [value]="one[0]">{{ one[1] }}</option>
                }
              </select>
            </label>
          }
          @case ('postponed') {
            <label class="field"
              >Counted
              <select name="kind" [(ngModel)]="kind">
                @for (one of law().postponements; track one.code) {
                  <option [value]="one.code">{{ one.label }}</option>
                }
              </select>
            </label>
            <label class="field">Last day <input type="date" name="until" [(ngModel)]="until" /></label>
          }
          @case ('exempt') {
            <label class="field"
              >Reason
              <select name="reason" [(ngModel)]="reason">
                @for (one of law().exemptions; track one.code) {
                  <option [value]="one.code">{{ one.label }}</option>
                }
              </select>
            </label>
          }
          @case ('opted-out') {
            <label class="field"
              >Reference of the notice <input name="reference" [(ngModel)]="reference" /><small
                >On the form that the provider gave out</small
              ></label
            >
          }
          @case ('letter') {
            <label class="field"
              >Letter
              <select name="letter" [(ngModel)]="letter">
                @for (one of law().letters; track one.code) {
                  <option [value]="one.code">{{ one.label }}</option>
                }
              </select>
            </label>
            <label class="field"
              >Given
              <select name="how" [(ngModel)]="how">
                <option value="paper">on paper</option>
                <option value="inbox">to the own view</option>
              </select>
            </label>
          }
        }
        <label class="field">{{ dayWords() }} <input type="date" name="on" [(ngModel)]="on" /></label>
      </div>
      @if (act() === 'opted-out') {
        <p class="muted">What was taken and what the employer put in comes back with the next pay, and nothing more is taken.</p>
      }
      <wr-problem [problem]="problem()" />
      @if (effect(); as effect) {
        <wr-effect [effect]="effect" />
      }
      <div class="form-actions">
        <button class="main-action" type="submit" [disabled]="act() === 'enrolled' && !page().schemes.length">
          @if (effect() || act() === 'letter') {
            {{ acts[act()] }}: {{ people().length | counted: 'person' : 'people' }}
          } @else {
            Show what it changes
          }
        </button>
        <button class="quiet" type="button" (click)="left.emit()">Cancel</button>
      </div>
    </form>
  `,
})
export class EnrolmentAct {
  private readonly api = inject(Api);
  readonly page = input.required<EnrolmentPage>();
  readonly people = input.required<readonly EnrolmentPerson[]>();
  readonly act = input.required<Act>();
  readonly today = input('');
  readonly saved = output();
  readonly left = output();
  protected readonly acts = ACTS;
  protected readonly reasons = Object.entries(BECAUSE) as [keyof typeof BECAUSE, string][];
  protected readonly law = computed(() => this.page().law ?? { postponements: [], exemptions: [], letters: [] });
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly effect = signal<Effect | null>(null);
  private readonly duty = computed(() => this.people()[0]?.duty ?? null);
  protected readonly scheme = linkedSignal(() => this.page().schemes[0]?.id ?? '');
  protected readonly tiers = computed(() => this.page().schemes.find(({ id }) => id === this.scheme())?.tiers ?? []);
  protected readonly tier = linkedSignal(() => this.tiers()[0]?.code ?? '');
  protected readonly because = linkedSignal((): keyof typeof BECAUSE => {
    const duty = this.duty()?.what;
    return duty === 'enrol' ? 'enrolled' : duty === 're-enrol' ? 're-enrolled' : (this.people()[0]?.assessed?.asks ?? 'agreed');
  });
  protected readonly kind = linkedSignal(() => this.law().postponements.at(-1)?.code ?? '');
  protected readonly until = linkedSignal(() => this.law().postponements[0]?.atMost ?? '');
  protected readonly reason = linkedSignal(() => this.law().exemptions[0]?.code ?? '');
  protected readonly letter = linkedSignal(() => this.duty()?.letter ?? this.law().letters[0]?.code ?? '');
  protected readonly how = signal<'paper' | 'inbox'>('paper');
  protected readonly reference = signal('');
  protected readonly on = linkedSignal(() => {
    const duty = this.duty();
    return (this.act() === 'enrolled' || this.act() === 'postponed') && duty ? duty.from : this.today();
  });
  protected readonly names = computed(() => {
    const names = this.people().map(({ name }) => name);
    return names.length > 4 ? `${names.slice(0, 4).join('; ')} and ${names.length - 4} more` : names.join('; ');
  });
  protected readonly dayWords = computed(
    () =>
      ({
        enrolled: 'Member from',
        postponed: 'Put off from',
        exempt: 'From',
        'exempt-no-more': 'From',
        'opted-out': 'Day of the notice',
        ceased: 'Last day of membership',
        letter: 'Given on',
      })[this.act()],
  );

  private get body(): BodyOf<'recordEnrolment'> {
    const on = this.on();
    const what: Record<Act, () => What> = {
      enrolled: () => ({ step: 'enrolled', on, scheme: this.scheme(), tier: this.tier(), because: this.because() }),
      postponed: () => ({ step: 'postponed', on, kind: this.kind(), until: this.until() }),
      exempt: () => ({ step: 'exempt', on, reason: this.reason() }),
      'exempt-no-more': () => ({ step: 'exempt-no-more', on }),
      'opted-out': () => ({ step: 'opted-out', on, reference: this.reference() }),
      ceased: () => ({ step: 'ceased', on }),
      letter: () => ({ step: 'letter', on, letter: this.letter(), how: this.how() }),
    };
    return { people: this.people().map(({ personId }) => personId), what: what[this.act()]() };
  }

  /** Another entry has another effect. */
  protected forget(): void {
    this.effect.set(null);
  }

  protected look(): void {
    this.problem.set(null);
    this.api.rehearse('recordEnrolment', { body: this.body }).subscribe({
      next: (effect) => this.effect.set(effect),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected save(): void {
    this.problem.set(null);
    this.api.call('recordEnrolment', { body: this.body }).subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
