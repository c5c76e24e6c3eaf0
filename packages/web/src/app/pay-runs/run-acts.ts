import { ChangeDetectionStrategy, Component, effect, inject, input, model, output, signal } from '@angular/core';
import { counted } from '@woodruff/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { RUN_REPORTS, type Delivery, type ProblemDetail, type ReportTo, type ReversalPreview, type Sheet } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { ReversalTouches } from './reversal-touches';

export type Act = 'send-back' | 'withdraw' | 'reverse' | 'deliver' | null;

/** What is done with a run as a whole, in its place below the tools: sent back, withdrawn, reversed, delivered. */
@Component({
  selector: 'wr-run-acts',
  imports: [CountedPipe, DayPipe, FormsModule, MoneyPipe, Problem, ReversalTouches, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (act()) {
      @case ('send-back') {
        <form class="panel-form" (ngSubmit)="sendBack()">
          <label class="field">What is to be changed <textarea name="words" rows="2" [(ngModel)]="words"></textarea></label>
          <wr-problem [problem]="problem()" />
          <div class="form-actions">
            <button class="main-action" type="submit">Send the run back</button>
            <button class="quiet" type="button" (click)="act.set(null)">Cancel</button>
          </div>
        </form>
      }
      @case ('withdraw') {
        <form class="panel-form" (ngSubmit)="withdraw()">
          <p>
            Withdraws {{ sheet().run.people | counted: 'payslip' : 'payslips' }}, net {{ sheet().run.totals.net | money }}, paid
            {{ sheet().run.payDate | day }}. What was posted is reversed on the same pay date, so that the year and the returns are as
            before; a draft with the same entries takes its place. Possible until {{ sheet().withdrawUntil | day }}.
          </p>
          <label class="field">Reason <input name="words" [(ngModel)]="words" /></label>
          <wr-problem [problem]="problem()" />
          <div class="form-actions">
            <button class="danger" type="submit">Withdraw the run</button>
            <button class="quiet" type="button" (click)="act.set(null)">Cancel</button>
          </div>
        </form>
      }
      @case ('reverse') {
        <form class="panel-form" (ngSubmit)="reverse()">
          <p>
            Reverses all payslips of this run that stand{{ touches() ? ': ' + touches()!.name : '' }}, net
            {{ touches()?.net ?? sheet().run.totals.net | money }}, dated today. What it touches:
          </p>
          @if (touches(); as touches) {
            <wr-reversal-touches [preview]="touches" />
          }
          <label class="field">Reason <input name="words" [(ngModel)]="words" /></label>
          <label class="check"
            ><input type="checkbox" name="replace" [(ngModel)]="replace" /> Open a replacement run with the same entries</label
          >
          <wr-problem [problem]="problem()" />
          <div class="form-actions">
            <button class="danger" type="submit">Reverse the run</button>
            <button class="quiet" type="button" (click)="act.set(null)">Cancel</button>
          </div>
        </form>
      }
      @case ('deliver') {
        <form class="panel-form" (ngSubmit)="deliver()">
          @if (delivery(); as delivery) {
            <p>
              {{ sentWords(delivery) }}
              <a routerLink="/outbox">The outbox</a>
            </p>
            @if (delivery.paper.length) {
              <p>
                On paper, for no e-mail address is on file:
                @for (person of delivery.paper; track person.payslipId) {
                  <a [href]="pdf(person.payslipId)" target="_blank">{{ person.name }}</a>{{ $last ? '.' : ', ' }}
                }
              </p>
            }
            <table class="lines reports">
              <tr>
                <th>Reports go to</th>
                <th>Register, XLSX</th>
                <th>Summary, PDF</th>
              </tr>
              @for (member of delivery.members; track member.email) {
                <tr>
                  <td>{{ member.name }}</td>
                  @for (report of reports; track report) {
                    <td>
                      @if (hasReport(delivery, member.email, report)) {
                        <span class="muted">sent</span>
                      } @else {
                        <input
                          type="checkbox"
                          [name]="report + member.email"
                          [attr.aria-label]="(report === 'register' ? 'Register' : 'Summary') + ' to ' + member.name"
                          [checked]="isChosen(member.email, report)"
                          (change)="toggle(member.email, report)"
                        />
                      }
                    </td>
                  }
                </tr>
              }
            </table>
            <wr-problem [problem]="problem()" />
            <div class="form-actions">
              <button class="main-action" type="submit" [disabled]="!delivery.ready && !chosen().length">
                {{ deliverWords(delivery) }}
              </button>
              <button class="quiet" type="button" (click)="act.set(null)">Close</button>
            </div>
          } @else {
            <p class="muted">Looking who gets a payslip …</p>
            <wr-problem [problem]="problem()" />
          }
        </form>
      }
    }
  `,
  styles: `
    .panel-form {
      background: var(--sheet);
      border: 1px solid var(--rule);
      border-radius: 3px;
      padding: 14px 18px;
      margin: 0 20px 10px 0;
      max-width: 760px;
    }
    p:first-child {
      margin-top: 0;
    }
    .reports {
      max-width: 560px;
      margin: 8px 0;
    }
    .reports input {
      vertical-align: middle;
    }
  `,
})
export class RunActs {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  readonly sheet = input.required<Sheet>();
  readonly act = model.required<Act>();
  readonly changed = output();
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly delivery = signal<Delivery | null>(null);
  protected readonly chosen = signal<readonly ReportTo[]>([]);
  protected readonly reports = RUN_REPORTS;
  protected readonly touches = signal<ReversalPreview | null>(null);
  protected words = '';
  protected replace = true;

  constructor() {
    effect(() => {
      const act = this.act();
      this.problem.set(null);
      this.words = '';
      if (act === 'deliver') this.look();
      if (act === 'reverse') this.lookAtTouches();
    });
  }

  protected sendBack(): void {
    this.run(this.api.call('sendBackRun', { path: { id: this.sheet().run.id }, body: { comment: this.words } }), () => this.changed.emit());
  }

  protected withdraw(): void {
    this.run(
      this.api.call('withdrawRun', { path: { id: this.sheet().run.id }, body: { reason: this.words } }),
      ({ id }) => void this.router.navigate(['/pay-runs', id]),
    );
  }

  protected reverse(): void {
    this.run(
      this.api.call('reverseRun', { path: { id: this.sheet().run.id }, body: { reason: this.words, replace: this.replace } }),
      (answer) => {
        if (answer.replacementRun) void this.router.navigate(['/pay-runs', answer.replacementRun]);
        else this.changed.emit();
      },
    );
  }

  protected deliver(): void {
    this.problem.set(null);
    this.api.call('deliverRun', { path: { id: this.sheet().run.id }, body: { reports: [...this.chosen()] } }).subscribe({
      next: (delivery) => {
        this.chosen.set([]);
        this.delivery.set(delivery);
        // The mail stand-in takes a moment.
        if (delivery.waiting) setTimeout(() => this.look(), 1200);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected toggle(to: string, report: ReportTo['report']): void {
    const rest = this.chosen().filter((one) => one.to !== to || one.report !== report);
    this.chosen.set(rest.length < this.chosen().length ? rest : [...rest, { to, report }]);
  }

  protected isChosen(to: string, report: ReportTo['report']): boolean {
    return this.chosen().some((one) => one.to === to && one.report === report);
  }

  protected hasReport = (delivery: Delivery, to: string, report: ReportTo['report']): boolean =>
    delivery.reports.some((one) => one.to === to && one.report === report);

  protected sentWords({ ready, waiting, sent }: Delivery): string {
    const words = [
      ready && `${counted(ready, 'payslip goes', 'payslips go')} out by mail.`,
      waiting && `${waiting} on the way.`,
      sent && `${sent} sent.`,
    ].filter(Boolean);
    return words.join(' ') || 'Nobody has an e-mail address on file.';
  }

  protected deliverWords({ ready }: Delivery): string {
    const reports = this.chosen().length;
    const words = [ready && counted(ready, 'payslip', 'payslips'), reports && counted(reports, 'report', 'reports')];
    return words.some(Boolean) ? `Send ${words.filter(Boolean).join(' and ')}` : 'Everything is sent';
  }

  protected pdf(payslipId: string): string {
    return this.api.url('payslipPdf', { path: { id: payslipId } });
  }

  private lookAtTouches(): void {
    this.touches.set(null);
    this.api.call('runReversalPreview', { path: { id: this.sheet().run.id } }).subscribe({
      next: (touches) => this.touches.set(touches),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private look(): void {
    this.api.call('delivery', { path: { id: this.sheet().run.id } }).subscribe({
      next: (delivery) => this.delivery.set(delivery),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private run<T>(request: Observable<T>, then: (answer: T) => void): void {
    this.problem.set(null);
    request.subscribe({
      next: (answer) => {
        this.act.set(null);
        then(answer);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
