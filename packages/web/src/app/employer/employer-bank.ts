import { ChangeDetectionStrategy, Component, effect, inject, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { injectPack } from '../kit/pack';
import { SetUpEdit } from './set-up-edit';

/** The account from which everything is paid. */
@Component({
  selector: 'wr-employer-bank',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Paying account
      @if (page.mayChange() && page.editing() !== 'bank') {
        <button class="quiet" type="button" (click)="page.edit('bank')" aria-label="Change: Paying account">Change</button>
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
    } @else {
      <dl class="pair">
        <dt>Bank</dt>
        <dd>
          @if (setUp().bank; as bank) {
            {{ bank.name }}, {{ pack()?.bank?.code?.label?.toLowerCase() }} {{ bank.routing }}, account {{ bank.shown }}
          } @else {
            not on file yet
          }
        </dd>
      </dl>
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerBank {
  protected readonly pack = injectPack();
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  private readonly api = inject(Api);
  protected bank = { name: '', routing: '', account: '' };

  constructor() {
    effect(() => {
      if (this.page.editing() !== 'bank') return;
      const { bank } = untracked(this.setUp);
      this.bank = { name: bank?.name ?? '', routing: bank?.routing ?? '', account: '' };
    });
  }

  protected save(): void {
    this.page.run(this.api.call('setBank', { body: this.bank }));
  }
}
