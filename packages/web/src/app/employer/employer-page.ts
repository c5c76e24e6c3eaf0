import { ChangeDetectionStrategy, Component, computed, effect, inject, viewChild } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Changes } from '../kit/changes';
import { Problem } from '../kit/problem';
import { DayPipe } from '../kit/words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { groupsStore } from '../people/people.store';
import { selectEmployer } from '../session/session.store';
import { EmployerBank } from './employer-bank';
import { EmployerLegal } from './employer-legal';
import { EmployerMembers } from './employer-members';
import { EmployerOwnFields } from './employer-own-fields';
import { EmployerPlaces } from './employer-places';
import { EmployerRegistrations } from './employer-registrations';
import { EmployerRules } from './employer-rules';
import { setUpStore } from './employer.store';
import { PaySchedules } from './pay-schedules';
import { SetUpEdit, type Part } from './set-up-edit';

/** One employer: who it is, where, how it pays, who works here; above all what is missing before the first run. */
@Component({
  selector: 'wr-employer-page',
  imports: [
    Changes,
    DayPipe,
    EmployerBank,
    EmployerLegal,
    EmployerMembers,
    EmployerOwnFields,
    EmployerPlaces,
    EmployerRegistrations,
    EmployerRules,
    PaySchedules,
    Problem,
    RouterLink,
  ],
  providers: [SetUpEdit],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './employer-page.html',
  styleUrl: './employer-page.scss',
})
export class EmployerPage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly edit = inject(SetUpEdit);
  private readonly schedules = viewChild(PaySchedules);
  protected readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly setUp = this.store.selectSignal(setUpStore.selectData);
  protected readonly problem = this.store.selectSignal(setUpStore.selectProblem);
  protected readonly mayChange = this.edit.mayChange;
  protected readonly parts = [
    { id: 'legal', label: 'Legal details' },
    { id: 'registrations', label: 'Registrations' },
    { id: 'schedules', label: 'Pay schedules' },
    { id: 'places', label: 'Places and jobs' },
    { id: 'bank', label: 'Paying accounts' },
    { id: 'accounts', label: 'Posting and rules' },
    { id: 'own-fields', label: 'Custom fields' },
    { id: 'people-here', label: 'Users' },
    { id: 'history', label: 'What changed' },
  ];
  protected readonly keepFromPay = computed(() => this.setUp()?.missing.filter((fact) => fact.keepsFromPay).length ?? 0);

  constructor() {
    effect(() => {
      if (!this.employer()?.id) return;
      this.edit.reload();
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
      this.store.dispatch(groupsStore.load({ input: {}, keep: true }));
    });
  }

  /** Leads from a missing fact to where it is entered. */
  protected fix(part: string): void {
    const elsewhere: Record<string, string> = { items: '/pay-items/ready', people: '/people/new' };
    if (elsewhere[part]) return void this.router.navigateByUrl(elsewhere[part]);
    if (part === 'schedules') this.schedules()?.begin();
    else this.edit.edit(part as Part);
    void this.router.navigate([], { fragment: part });
  }
}
