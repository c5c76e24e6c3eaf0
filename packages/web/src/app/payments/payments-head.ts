import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { injectPack } from '../kit/pack';
import { chequesTitle } from './payment-words';

/** The head of the section, with the way to each of its pages. */
@Component({
  selector: 'wr-payments-head',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="title-line">
      <h1>{{ title() }}</h1>
      @for (page of pages(); track page.path) {
        <a class="quiet" [routerLink]="page.path" routerLinkActive="on" [routerLinkActiveOptions]="{ exact: page.path === '/payments' }">{{
          page.label
        }}</a>
      }
      <ng-content />
    </div>
  `,
  styles: `
    h1,
    a {
      white-space: nowrap;
    }
  `,
})
export class PaymentsHead {
  readonly title = input('Payments');
  private readonly pack = injectPack();
  protected readonly pages = computed(() => [
    { path: '/payments', label: 'Ladder' },
    { path: '/payments/payees', label: 'Payees' },
    { path: '/payments/cheques', label: chequesTitle(this.pack()?.words) },
    { path: '/payments/funding', label: 'Funding' },
    { path: '/payments/employer-taxes', label: 'Employer taxes' },
    { path: '/payments/journal', label: 'Journal' },
    { path: '/payments/tie-outs', label: 'Tie-outs' },
    { path: '/payments/bank', label: 'Bank' },
  ]);
}
