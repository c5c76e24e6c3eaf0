import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail, Rung } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMay, selectMayPrepare } from '../session/session.store';
import { ASKS, methodWords, RUNG_STATES } from './payment-words';
import { PaymentsHead } from './payments-head';
import { ladderStore } from './payments.store';
import { ReturnedPayment } from './returned-payment';

/** What must leave which account, when, and has it arrived? */
@Component({
  selector: 'wr-ladder-page',
  imports: [CountedPipe, DayPipe, MoneyPipe, PaymentsHead, Problem, ReturnedPayment, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head>
        @if (mayPrepare() && data()?.accounts?.length) {
          <button class="quiet right" type="button" (click)="exchange()" [disabled]="asking()">
            {{ asking() ? 'Asking the bank …' : 'Ask the bank' }}
          </button>
        }
      </wr-payments-head>
      @if (data()?.accounts; as accounts) {
        <p class="muted">
          @for (account of accounts; track account.id) {
            <span class="account"
              >From {{ account.name }}, account ending {{ account.last4
              }}{{ account.on ? ': ' + (account.balance | money) + ' there on ' + (account.on | day: 'short') : '' }}.</span
            >
          }
        </p>
      }
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (said()) {
        <p role="status" class="muted">{{ said() }}</p>
      }
      @if (data(); as ladder) {
        @if (!ladder.accounts.length) {
          <p class="notice">
            No account that pays is set up. <a routerLink="/employer" fragment="bank">Enter the paying account</a>, then pay goes by file.
          </p>
        }
        @if (ladder.returned.length || ladder.notices.length) {
          <section class="section">
            <h2>
              Came back
              <span class="attention">{{ ladder.returned.length + ladder.notices.length | counted: 'payment' : 'payments' }}</span>
            </h2>
            @for (payment of ladder.returned; track payment.id) {
              <wr-returned-payment [payment]="payment" (done)="load(true)" />
            }
            @for (payment of ladder.notices; track payment.id) {
              <wr-returned-payment [payment]="payment" (done)="load(true)" />
            }
          </section>
        }
        @for (part of parts(); track part.title) {
          <section class="section">
            <h2>
              {{ part.title }}
              @if (part.title === 'To do') {
                <a class="quiet right" [href]="calendar">As a calendar (iCalendar)</a>
              }
            </h2>
            <table class="lines">
              @for (rung of part.rungs; track $index) {
                <tr [class.late]="rung.late">
                  <td class="when">{{ rung.date | day }}</td>
                  <td>
                    @if (rung.batchId) {
                      <a [routerLink]="['/payments/batches', rung.batchId]">{{ rung.what }}</a>
                    } @else if (rung.owed) {
                      <a [routerLink]="['/payments/payees', rung.owed]">{{ rung.what }}</a>
                    } @else {
                      {{ rung.what }}
                    }
                    @if (rung.sums.length) {
                      <div class="muted">{{ sumsOf(rung) }}</div>
                    }
                    @if (rung.payingAccountId && rung.state !== 'paid') {
                      <div class="muted">from {{ accountOf(rung) }}</div>
                    }
                  </td>
                  <td class="num">{{ rung.amount | money }}</td>
                  <td [class.attention]="asks.includes(rung.state) && !rung.late" class="state">
                    {{ rung.late ? '▲ late, ' : '' }}{{ states[rung.state] }}{{ rung.returned ? ': ' + rung.returned : '' }}
                  </td>
                  <td class="num">
                    @if (rung.state === 'to-prepare' && mayPay()) {
                      <button class="quiet" type="button" (click)="prepare(rung)">Prepare the batch</button>
                    }
                  </td>
                </tr>
              }
            </table>
          </section>
        } @empty {
          <p class="muted">Nothing is to be paid. Approve a pay run, then what it pays and what is owed stands here.</p>
        }
      } @else if (!loadProblem()) {
        <p class="muted">Adding up what is to be paid …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    .when {
      width: 150px;
      white-space: nowrap;
    }
    .state {
      width: 210px;
    }
    .account {
      margin-right: 14px;
    }
    tr.late td {
      color: var(--brick);
    }
    h2 {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
  `,
})
export class LadderPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly pack = injectPack();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(ladderStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(ladderStore.selectProblem);
  protected readonly mayPay = this.store.selectSignal(selectMay('pay-out'));
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly asking = signal(false);
  protected readonly said = signal('');
  protected readonly states = RUNG_STATES;
  protected readonly asks = ASKS;
  protected readonly calendar = this.api.url('dueCalendar', {});
  protected readonly parts = computed(() => {
    const today = this.employer()?.today ?? '';
    const rungs = this.data()?.rungs ?? [];
    const open = (rung: Rung) => ASKS.includes(rung.state) || rung.state === 'sent';
    return [
      { title: 'Late', rungs: rungs.filter(({ late }) => late) },
      { title: 'To do', rungs: rungs.filter((rung) => !rung.late && open(rung)) },
      { title: 'Done', rungs: rungs.filter((rung) => !rung.late && !open(rung) && rung.date <= today).reverse() },
      { title: 'Paid ahead', rungs: rungs.filter((rung) => !rung.late && !open(rung) && rung.date > today) },
    ].filter((part) => part.rungs.length);
  });

  constructor() {
    effect(() => {
      if (this.employer()?.today) this.load(false);
    });
  }

  protected load(keep: boolean): void {
    this.store.dispatch(ladderStore.load({ input: {}, keep }));
  }

  protected sumsOf({ sums }: Rung): string {
    return sums.map(({ method, payments }) => `${payments} ${methodWords(method, this.pack()?.words)}`).join(', ');
  }

  protected accountOf({ payingAccountId }: Rung): string {
    const account = this.data()?.accounts.find(({ id }) => id === payingAccountId);
    return account ? `${account.name}, ending ${account.last4}` : '';
  }

  protected prepare({ kind, date, payingAccountId }: Rung): void {
    if (kind === 'batch' || kind === 'owed') return;
    this.problem.set(null);
    this.api.call('prepareBatch', { body: { kind, payDate: date, payingAccountId } }).subscribe({
      next: ({ id }) => void this.router.navigate(['/payments/batches', id]),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected exchange(): void {
    this.problem.set(null);
    this.asking.set(true);
    this.api.call('exchange', { body: {} }).subscribe({
      next: ({ sent, lines, unknown }) => {
        this.asking.set(false);
        const told = lines ? `${lines} new ${lines === 1 ? 'line' : 'lines'} on its statements` : 'nothing new';
        this.said.set(
          `${sent ? `${sent} ${sent === 1 ? 'file' : 'files'} handed in. ` : ''}The bank has ${told}${unknown ? `, ${unknown} of no payment of ours` : ''}.`,
        );
        this.load(true);
      },
      error: (error: unknown) => {
        this.asking.set(false);
        this.problem.set(problemOf(error));
      },
    });
  }
}
