import { ChangeDetectionStrategy, Component, effect, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { SetUp } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { injectPack } from '../kit/pack';
import { SetUpEdit } from './set-up-edit';

/** The accounts from which everything is paid: the first one, and others that schedules or payees are paid from. */
@Component({
  selector: 'wr-employer-bank',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Paying accounts
      @if (page.mayChange() && page.editing() !== 'bank') {
        <button class="quiet" type="button" (click)="begin(null)" aria-label="Add: Paying account">
          {{ setUp().banks.length ? 'Add another' : 'Enter the account' }}
        </button>
      }
    </h2>
    @if (page.editing() === 'bank') {
      <form class="panel-form" (ngSubmit)="save()">
        <div class="form">
          <label class="field">Bank <input name="bankName" [(ngModel)]="bank.name" /></label>
          <label class="field"
            >{{ pack()?.bank?.code?.label }} <input name="routing" inputmode="numeric" [(ngModel)]="bank.routing"
          /></label>
          <label class="field"
            >{{ pack()?.bank?.account?.label }} <input name="account" inputmode="numeric" [(ngModel)]="bank.account" autocomplete="off"
          /></label>
        </div>
        <wr-problem [problem]="page.problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Pay from this account</button>
          <button class="quiet" type="button" (click)="page.stop()">Cancel</button>
        </div>
      </form>
    }
    <table class="lines">
      @for (account of setUp().banks; track account.id) {
        <tr>
          <td>{{ account.name }}</td>
          <td>{{ pack()?.bank?.code?.label }} {{ account.routing }}, account {{ account.shown }}</td>
          <td class="muted">
            {{ account.id ? 'for schedules and payees that say so' : 'for everything that does not say otherwise' }}
          </td>
          <td class="num">
            @if (page.mayChange() && page.editing() !== 'bank') {
              <button class="quiet" type="button" (click)="begin(account)" [attr.aria-label]="'Change: Paying account ' + account.name">
                Change
              </button>
            }
          </td>
        </tr>
      } @empty {
        <tr>
          <td class="muted">None on file yet. Pay by file wants one.</td>
        </tr>
      }
    </table>
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerBank {
  protected readonly pack = injectPack();
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  private readonly api = inject(Api);
  private chosen: SetUp['banks'][number] | null = null;
  protected bank = { name: '', routing: '', account: '' };

  constructor() {
    // Begun from elsewhere on the page, it is the first account that is meant.
    effect(() => {
      if (this.page.editing() !== 'bank') this.chosen = null;
    });
  }

  protected begin(account: SetUp['banks'][number] | null): void {
    this.bank = { name: account?.name ?? '', routing: account?.routing ?? '', account: '' };
    this.page.edit('bank');
    this.chosen = account;
  }

  protected save(): void {
    const first = !this.setUp().banks.length || this.chosen?.id === null;
    this.page.run(this.api.call('setBank', { body: { which: first ? 'first' : (this.chosen?.id ?? 'another'), ...this.bank } }));
  }
}
