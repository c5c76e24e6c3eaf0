import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { HttpClient } from '@angular/common/http';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { BodyOf, FilingView, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectMay, selectMayPrepare } from '../session/session.store';
import { ASKS, STATES } from './filing-words';
import { HeldBack } from './held-back';

type Act = 'prepare' | 'withdraw' | 'agree' | 'send' | 'answer';

/** Where a filing stands, what happened to it, what can be done now, and by how much it differs from what was filed. */
@Component({
  selector: 'wr-filing-life',
  imports: [CountedPipe, DayPipe, FormsModule, HeldBack, MoneyPipe, NgTemplateOutlet, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Where it stands <span [class.attention]="asks.includes(filing().state)">{{ states[filing().state] }}</span>
    </h2>
    @if (filing().filed; as filed) {
      @if (filed.differences.length || filed.corrected.length) {
        <div class="notice">
          {{ filed.differences.length | counted: 'line is' : 'lines are' }} not as filed on {{ filed.on | day: 'short' }}.
          {{ filed.because ? filed.because + '.' : '' }}
          {{ filed.amendUntil ? 'It can be corrected until ' + (filed.amendUntil | day: 'short') + '.' : '' }}
          <table class="lines">
            <tr>
              <th>Line</th>
              <th></th>
              <th class="num">Filed</th>
              <th class="num">Now</th>
            </tr>
            @for (line of filed.differences; track line.line) {
              <tr>
                <td>{{ line.line }}</td>
                <td>{{ line.label }}</td>
                <td class="num">{{ line.unit === 'money' ? (line.filed | money) : line.filed }}</td>
                <td class="num">{{ line.unit === 'money' ? (line.now | money) : line.now }}</td>
              </tr>
            }
            @for (one of filed.corrected.slice(0, 20); track one.personId) {
              <tr>
                <td colspan="4">
                  <strong>{{ one.name }}</strong>{{ one.named ? ', name or number' : '' }}
                </td>
              </tr>
              @for (box of one.boxes; track box.box) {
                <tr>
                  <td>{{ box.box }}</td>
                  <td>{{ box.label }}</td>
                  <td class="num">{{ box.before | money }}</td>
                  <td class="num">{{ box.now | money }}</td>
                </tr>
              }
              @for (mark of one.marks; track mark.box) {
                <tr>
                  <td>{{ mark.box }}</td>
                  <td>{{ mark.label }}</td>
                  <td class="num">{{ mark.before || '–' }}</td>
                  <td class="num">{{ mark.now || '–' }}</td>
                </tr>
              }
            }
          </table>
          @if (filed.corrected.length) {
            <p>{{ filing().copyOf?.corrected }} for {{ filed.corrected.length | counted: 'person' : 'people' }}, once it is prepared.</p>
          }
        </div>
      }
    }
    @if (filing().faults.length) {
      <div class="notice bad" role="alert">
        The agency rejected it:
        @for (fault of filing().faults; track $index) {
          <div>
            {{ fault.code }}: {{ fault.text }}{{ fault.line ? ', line ' + fault.line : ''
            }}{{ fault.person ? ' (' + fault.person + ')' : '' }}
          </div>
        }
        Correct the cause, then prepare it again.
      </div>
    }
    @if (filing().events.length) {
      <table class="lines">
        @for (event of filing().events; track $index) {
          <tr>
            <td class="when">{{ event.on | day: 'short' }}</td>
            <td>
              {{ event.step }}{{ event.attempt > 1 && event.step === 'prepared' ? ' again' : '' }} by {{ event.who }}
              @if (event.step === 'prepared') {
                <a class="quiet" [href]="printOf(event.attempt)">PDF as prepared</a>
              }
              @if (event.step === 'sent' && sentByFile(event.attempt)) {
                <button class="quiet" type="button" (click)="look(event.attempt)">The file</button>
              }
              @if (event.words) {
                <div class="muted">{{ event.words }}</div>
              }
            </td>
          </tr>
        }
      </table>
    }
    @switch (act()) {
      @case ('prepare') {
        <form class="form" (ngSubmit)="go(without().length ? { reason, without: without() } : { reason })">
          <p>Keeps the figures as they are now. They are agreed to and sent as kept, whatever is posted meanwhile.</p>
          @if (filing().filed) {
            <label class="field">Why it differs <input name="reason" [(ngModel)]="reason" required /></label>
          }
          @if (filing().copyOf?.some) {
            <wr-held-back [copies]="filing().copies" [(without)]="without" />
          }
          <ng-container [ngTemplateOutlet]="end" />
        </form>
      }
      @case ('withdraw') {
        <form class="form" (ngSubmit)="go({ reason })">
          <label class="field">Reason <input name="reason" [(ngModel)]="reason" required /></label>
          <ng-container [ngTemplateOutlet]="end" />
        </form>
      }
      @case ('agree') {
        <form class="form" (ngSubmit)="go({ signer, title })">
          <p class="statement">{{ filing().statement }}</p>
          <label class="field">Name <input name="signer" [(ngModel)]="signer" required /></label>
          <label class="field">Title <input name="title" [(ngModel)]="title" /></label>
          <ng-container [ngTemplateOutlet]="end" />
        </form>
      }
      @case ('send') {
        <form class="form" (ngSubmit)="go(how === 'file' ? { how, pays, consent: pays ? consent : '' } : { how, reference })">
          @if (how === 'file' && filing().file; as file) {
            @if (file.wants.length) {
              <div class="notice bad">
                Before anything can be filed so, enter
                @for (want of file.wants; track want.sentence) {
                  <div>
                    <a routerLink="/employer" [fragment]="want.part">{{ want.sentence }}</a>
                  </div>
                }
              </div>
            } @else {
              <p>
                It goes to the {{ filing().agency }} as {{ file.format }}, signed as it was agreed to. What the agency answers stands here.
              </p>
            }
            @if (filing().balance) {
              <label class="check"
                ><input type="checkbox" name="pays" [(ngModel)]="pays" /> Pay {{ filing().balance | money }}, which is left for the period,
                along with it</label
              >
              @if (pays) {
                <p class="statement">I consent to the payment of {{ filing().balance | money }} to the {{ filing().agency }}.</p>
                <label class="field">Name <input name="consent" [(ngModel)]="consent" required /></label>
              }
            }
          } @else {
            <p>File what was prepared there, then record it here.</p>
          }
          <label class="field"
            >Filed
            <select name="how" [(ngModel)]="how">
              @if (filing().file) {
                <option value="file">by file, from here</option>
              }
              <option value="paper">on paper</option>
              <option value="portal">through the agency's own site</option>
              <option value="agent">through an agent</option>
            </select>
          </label>
          @if (how !== 'file') {
            <label class="field">Confirmation number <input name="reference" [(ngModel)]="reference" /></label>
          }
          <ng-container [ngTemplateOutlet]="end" />
        </form>
      }
      @case ('answer') {
        <form class="form" (ngSubmit)="go({ answer, reference, reasons })">
          <label class="field"
            >The agency
            <select name="answer" [(ngModel)]="answer">
              @if (filing().next.includes('received')) {
                <option value="received">has received it</option>
              }
              <option value="accepted">has accepted it</option>
              <option value="rejected">has rejected it</option>
            </select>
          </label>
          <label class="field">Confirmation number <input name="reference" [(ngModel)]="reference" /></label>
          @if (answer === 'rejected') {
            <label class="field wide">Reasons given <textarea name="reasons" rows="3" [(ngModel)]="reasons" required></textarea></label>
          }
          <ng-container [ngTemplateOutlet]="end" />
        </form>
      }
      @default {
        <p class="acts">
          @for (one of acts(); track one) {
            <button [class]="one === acts()[0] ? 'main-action' : 'quiet'" type="button" (click)="begin(one)">{{ names[one] }}</button>
          }
          @if (filing().file) {
            <button class="quiet" type="button" (click)="look(null)">Look at the file</button>
          }
          @if (awaited()) {
            <button class="quiet" type="button" (click)="ask()">Ask the agency</button>
          }
          @if (waits()) {
            <span class="muted">{{ waits() }}</span>
          }
        </p>
      }
    }
    @if (content(); as shown) {
      <div class="shown">
        <p class="row-of">
          <strong>{{ shown.title }}</strong>
          <a class="quiet" [href]="shown.url">Save it</a>
          <button class="quiet" type="button" (click)="content.set(null)">Close</button>
        </p>
        <pre tabindex="0" role="region" [attr.aria-label]="shown.title">{{ shown.text }}</pre>
      </div>
    }
    <ng-template #end>
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        <button class="main-action" type="submit">{{ act() === 'send' && how === 'file' ? 'Send it' : saves[act() ?? 'prepare'] }}</button>
        <button class="quiet" type="button" (click)="begin(null)">Cancel</button>
      </div>
    </ng-template>
  `,
  styleUrl: '../kit/heading-with-state.scss',
  styles: `
    .when {
      width: 110px;
      white-space: nowrap;
    }
    .statement {
      font-style: italic;
    }
    .form {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 10px;
      max-width: 460px;
      margin-top: 10px;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 10px 16px;
      align-items: baseline;
      margin-top: 12px;
    }
    pre {
      background: var(--sheet);
      border: 1px solid var(--rule);
      font-size: 12px;
      max-height: 340px;
      overflow: auto;
      padding: 8px 10px;
    }
    .acts > button {
      margin-left: 0;
    }
  `,
})
export class FilingLife {
  private readonly api = inject(Api);
  private readonly http = inject(HttpClient);
  private readonly store = inject(Store);
  readonly filing = input.required<FilingView>();
  readonly taken = output();
  protected readonly states = STATES;
  protected readonly asks = ASKS;
  protected readonly names: Record<Act, string> = {
    prepare: 'Prepare …',
    withdraw: 'Withdraw …',
    agree: 'Agree …',
    send: 'File …',
    answer: 'Record the answer …',
  };
  protected readonly saves: Record<Act, string> = {
    prepare: 'Prepare it',
    withdraw: 'Withdraw it',
    agree: 'I agree',
    send: 'Record as filed',
    answer: 'Record the answer',
  };
  protected readonly act = signal<Act | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  private readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly mayApprove = this.store.selectSignal(selectMay('approve'));
  protected readonly acts = computed<Act[]>(() => {
    const { next, complete, filed } = this.filing();
    const may = (act: Act, wanted: boolean, right: boolean): Act[] => (wanted && right ? [act] : []);
    return [
      ...may(
        'prepare',
        next.includes('prepared') && complete && (!filed || filed.differences.length > 0 || filed.corrected.length > 0),
        this.mayPrepare(),
      ),
      ...may('agree', next.includes('agreed'), this.mayApprove()),
      ...may('send', next.includes('sent'), this.mayApprove()),
      ...may('answer', next.includes('accepted'), this.mayPrepare()),
      ...may('withdraw', next.includes('withdrawn'), this.mayPrepare()),
    ];
  });
  /** Why nothing can be done yet. */
  protected readonly waits = computed(() => (this.filing().complete ? '' : 'It can be prepared when its period is over.'));
  /** Who is held back of those that a filing states. */
  protected readonly without = signal<string[]>([]);
  protected reason = '';
  protected signer = '';
  protected title = '';
  protected how: BodyOf<'sendFiling'>['how'] = 'portal';
  protected pays = false;
  protected consent = '';
  /** A file that is looked at. */
  protected readonly content = signal<{ title: string; url: string; text: string } | null>(null);
  /** It is with the agency by file, and an answer is to come. */
  protected readonly awaited = computed(() => ['queued', 'received'].includes(this.filing().state) && this.filing().files.length > 0);
  protected reference = '';
  protected answer: BodyOf<'answerFiling'>['answer'] = 'accepted';
  protected reasons = '';

  constructor() {
    effect(() => {
      this.filing();
      untracked(() => this.begin(null));
    });
  }

  protected begin(act: Act | null): void {
    const { name, title } = this.filing().signatory;
    this.reference = this.reasons = '';
    this.without.set([]);
    this.reason = act === 'prepare' ? (this.filing().filed?.because ?? '') : '';
    [this.signer, this.title] = [name, title];
    this.how = this.filing().file ? 'file' : 'portal';
    this.pays = false;
    this.consent = '';
    this.problem.set(null);
    this.act.set(act);
  }

  protected sentByFile(attempt: number): boolean {
    return this.filing().files.some((file) => file.attempt === attempt);
  }

  /** Shows what a file holds: of an attempt as it was sent, else as it would be now. */
  protected look(attempt: number | null): void {
    const url = this.api.url('filingFile', { ...this.at(), query: attempt === null ? {} : { attempt } });
    this.http.get(url, { responseType: 'text' }).subscribe({
      next: (text) =>
        this.content.set({ title: attempt === null ? 'The file as it would be now, not signed' : 'The file as it was sent', url, text }),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected ask(): void {
    this.api.call('askAgencies', { body: {} }).subscribe({
      next: () => this.taken.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected printOf(attempt: number): string {
    return this.api.url('filingPdf', { ...this.at(), query: { attempt } });
  }

  protected go(body: object): void {
    const act = this.act();
    if (!act) return;
    this.api.call(`${act}Filing`, { ...this.at(), body: body as never }).subscribe({
      next: () => this.taken.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private at() {
    return { path: { filing: this.filing().filing, period: this.filing().period.key } };
  }
}
