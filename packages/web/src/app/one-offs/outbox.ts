import { ChangeDetectionStrategy, Component, effect, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Outbox } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { outboxStore } from './one-offs.store';

const FILES = { payslip: 'payslipPdf', statement: 'mailedCopy', register: 'registerSheet', summary: 'runSummary' } as const;

/** What the mail stand-in was given: nothing leaves this installation. */
@Component({
  selector: 'wr-outbox',
  imports: [DayPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <!-- Messages may have nothing to follow: who uses keys can still scroll through them. -->
    <main class="page" tabindex="0">
      <div class="title-line">
        <h1>Outbox</h1>
        <span class="muted">A stand-in for mail: messages are kept here and leave this installation to nobody</span>
      </div>
      <wr-problem [problem]="problem()" />
      <table class="lines">
        <tr>
          <th>To</th>
          <th>Subject</th>
          <th>Message</th>
          <th>Attached</th>
          <th>Sent</th>
        </tr>
        @for (message of messages(); track message.id) {
          <tr>
            <td>
              {{ message.name }}
              <div class="muted">{{ message.to }}</div>
            </td>
            <td>{{ message.subject }}</td>
            <td>
              @if (message.body === null) {
                <span class="muted">Only the addressee reads this letter.</span>
              } @else {
                {{ message.body }}
              }
            </td>
            <td>
              @if (message.attachment; as attachment) {
                <a [href]="link(attachment)" target="_blank">{{ attachment.label }}</a>
              }
            </td>
            <td class="muted">
              @if (message.deliveredAt) {
                {{ message.deliveredAt.slice(0, 10) | day: 'short' }} {{ message.deliveredAt.slice(11, 16) }}
              } @else {
                waits
              }
            </td>
          </tr>
        } @empty {
          @if (messages()) {
            <tr>
              <td class="muted" colspan="5">Nothing was sent yet. Payslips are sent from an approved run.</td>
            </tr>
          }
        }
      </table>
    </main>
  `,
})
export class OutboxPage {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  protected readonly messages = this.store.selectSignal(outboxStore.selectData);
  protected readonly problem = this.store.selectSignal(outboxStore.selectProblem);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()) this.store.dispatch(outboxStore.load({ input: {}, keep: true }));
    });
  }

  protected link({ kind, id }: NonNullable<Outbox[number]['attachment']>): string {
    return this.api.url(FILES[kind], { path: { id } });
  }
}
