import type { Routes } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState } from '@ngrx/store';
import type { EnvironmentProviders } from '@angular/core';
import { setUpStore } from './employer/employer.store';
import { itemChoicesStore, payItemStore, payItemsStore, readyItemsStore } from './pay-items/pay-items.store';
import { oneOffsStore, outboxStore } from './one-offs/one-offs.store';
import { runEffects } from './pay-runs/pay-runs.effects';
import { comparisonStore, reviewStore, runFeature, runsStore } from './pay-runs/pay-runs.store';
import { employerStore, groupsStore, peopleStore, personStore } from './people/people.store';
import { agencyStore, boxMapStore, reconciledStore, yearStore, filingsStore, filingStore } from './filings/filings.store';
import {
  accountMapStore,
  accrualStore,
  bankStore,
  batchStore,
  chequesStore,
  costsStore,
  fundingStore,
  journalStore,
  ladderStore,
  payeesStore,
  payeeStore,
  runJournalStore,
  taxGridStore,
  tieOutsStore,
} from './payments/payments.store';
import { signedIn } from './session/signed-in.guard';
import { Shell } from './shell/shell';
import { ownStore } from './own/own.store';
import { enrolmentStore } from './enrolment/enrolment.store';
import { noticesStore } from './notices/notices.store';
import { leaveStore } from './leave/leave.store';
import { clockStore, timeStore } from './time/time.store';
import { tableComparisonStore, tablesStore } from './tables/tables.store';
import { todayStore } from './today/today.store';

const stateOf = (...stores: { name: string; reducer: unknown; effects: unknown }[]): EnvironmentProviders[] =>
  stores.flatMap((store) => [provideState(store.name, store.reducer as never), provideEffects(store.effects as never)]);

export const routes: Routes = [
  { path: 'sign-in', title: 'Sign in · Woodruff', loadComponent: () => import('./session/sign-in').then((file) => file.SignIn) },
  {
    path: 'forgotten',
    title: 'New password · Woodruff',
    loadComponent: () => import('./session/forgotten').then((file) => file.Forgotten),
  },
  { path: 'link/:token', title: 'Your link · Woodruff', loadComponent: () => import('./session/link').then((file) => file.LinkPage) },
  {
    path: 'own',
    title: 'Payslips · Woodruff',
    canActivate: [signedIn],
    providers: [...stateOf(ownStore)],
    loadComponent: () => import('./own/own-page').then((file) => file.OwnPage),
  },
  {
    path: '',
    component: Shell,
    canActivate: [signedIn],
    providers: [
      ...stateOf(
        todayStore,
        peopleStore,
        groupsStore,
        personStore,
        employerStore,
        setUpStore,
        payItemsStore,
        payItemStore,
        itemChoicesStore,
        readyItemsStore,
        runsStore,
        oneOffsStore,
        timeStore,
        leaveStore,
        enrolmentStore,
        noticesStore,
        clockStore,
        outboxStore,
        comparisonStore,
        reviewStore,
        agencyStore,
        yearStore,
        boxMapStore,
        reconciledStore,
        tablesStore,
        tableComparisonStore,
        filingsStore,
        filingStore,
        accrualStore,
        costsStore,
        runJournalStore,
        taxGridStore,
        ladderStore,
        batchStore,
        payeesStore,
        payeeStore,
        chequesStore,
        bankStore,
        journalStore,
        accountMapStore,
        tieOutsStore,
        fundingStore,
      ),
      provideState(runFeature),
      provideEffects(runEffects),
    ],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'today' },
      {
        path: 'employer',
        title: 'Employer · Woodruff',
        loadComponent: () => import('./employer/employer-page').then((file) => file.EmployerPage),
      },
      {
        path: 'employers/new',
        title: 'New employer · Woodruff',
        loadComponent: () => import('./employer/employer-new').then((file) => file.EmployerNew),
      },
      { path: 'today', title: 'Today · Woodruff', loadComponent: () => import('./today/today').then((file) => file.Today) },
      { path: 'people', title: 'People · Woodruff', loadComponent: () => import('./people/people-list').then((file) => file.PeopleList) },
      {
        path: 'people/notices',
        title: 'Notices · Woodruff',
        loadComponent: () => import('./notices/notices-page').then((file) => file.NoticesPageView),
      },
      {
        path: 'people/enrolment',
        title: 'Savings schemes · Woodruff',
        loadComponent: () => import('./enrolment/enrolment-page').then((file) => file.EnrolmentPageView),
      },
      {
        path: 'people/new',
        title: 'New person · Woodruff',
        loadComponent: () => import('./people/person-new').then((file) => file.PersonNew),
      },
      {
        path: 'people/import',
        title: 'Import people · Woodruff',
        loadComponent: () => import('./people/people-import').then((file) => file.PeopleImport),
      },
      {
        path: 'people/import/earlier-pay',
        title: 'Import earlier pay · Woodruff',
        data: { holds: 'earlier-pay' },
        loadComponent: () => import('./people/people-import').then((file) => file.PeopleImport),
      },
      {
        path: 'people/groups',
        title: 'Groups · Woodruff',
        loadComponent: () => import('./people/pay-groups').then((file) => file.PayGroups),
      },
      {
        path: 'people/:id',
        title: 'Person · Woodruff',
        loadComponent: () => import('./people/person-page').then((file) => file.PersonPage),
      },
      {
        path: 'pay-items',
        title: 'Pay items · Woodruff',
        loadComponent: () => import('./pay-items/pay-items-list').then((file) => file.PayItemsList),
      },
      {
        path: 'pay-items/ready',
        title: 'Standard items · Woodruff',
        loadComponent: () => import('./pay-items/ready-items').then((file) => file.ReadyItems),
      },
      {
        path: 'pay-items/new',
        title: 'New pay item · Woodruff',
        loadComponent: () => import('./pay-items/pay-item-new').then((file) => file.PayItemNew),
      },
      {
        path: 'pay-items/:id',
        title: 'Pay item · Woodruff',
        loadComponent: () => import('./pay-items/pay-item-page').then((file) => file.PayItemPage),
      },
      {
        path: 'pay-runs',
        title: 'Pay runs · Woodruff',
        loadComponent: () => import('./pay-runs/pay-runs-list').then((file) => file.PayRunsList),
      },
      { path: 'time', title: 'Time · Woodruff', loadComponent: () => import('./time/time-page').then((file) => file.TimePageView) },
      {
        path: 'time/leave',
        title: 'Leave · Woodruff',
        loadComponent: () => import('./leave/leave-page').then((file) => file.LeavePageView),
      },
      {
        path: 'time/clock',
        title: 'Time clock · Woodruff',
        loadComponent: () => import('./time/clock-page').then((file) => file.ClockPage),
      },
      {
        path: 'time/leave/plans',
        title: 'Leave plans · Woodruff',
        loadComponent: () => import('./leave/leave-plans').then((file) => file.LeavePlans),
      },
      {
        path: 'pay-runs/one-offs',
        title: 'One-offs · Woodruff',
        loadComponent: () => import('./one-offs/one-offs-page').then((file) => file.OneOffsPage),
      },
      {
        path: 'pay-runs/special',
        title: 'Special run · Woodruff',
        loadComponent: () => import('./pay-runs/special-run-new').then((file) => file.SpecialRunNew),
      },
      {
        path: 'account',
        title: 'Your account · Woodruff',
        loadComponent: () => import('./session/account').then((file) => file.Account),
      },
      {
        path: 'outbox',
        title: 'Outbox · Woodruff',
        loadComponent: () => import('./one-offs/outbox').then((file) => file.OutboxPage),
      },
      {
        path: 'pay-runs/:id',
        title: 'Pay run · Woodruff',
        loadComponent: () => import('./pay-runs/run-page').then((file) => file.RunPage),
      },
      {
        path: 'filings',
        title: 'Returns · Woodruff',
        loadComponent: () => import('./filings/filings-list').then((file) => file.FilingsListPage),
      },
      {
        path: 'filings/year/:year',
        title: 'Year end · Woodruff',
        loadComponent: () => import('./filings/year-page').then((file) => file.YearPage),
      },
      {
        path: 'filings/year/:year/boxes',
        title: 'Items and boxes · Woodruff',
        loadComponent: () => import('./filings/boxes-page').then((file) => file.BoxesPage),
      },
      {
        path: 'filings/year/:year/reconcile',
        title: 'Reconciliation · Woodruff',
        loadComponent: () => import('./filings/reconcile-page').then((file) => file.ReconcilePage),
      },
      {
        path: 'filings/sending',
        title: 'To send · Woodruff',
        loadComponent: () => import('./filings/sending-page').then((file) => file.SendingPage),
      },
      {
        path: 'filings/tables',
        title: 'Tables · Woodruff',
        loadComponent: () => import('./tables/tables-page').then((file) => file.TablesPage),
      },
      {
        path: 'filings/tables/scales',
        title: 'Withholding look-up · Woodruff',
        loadComponent: () => import('./tables/scales-page').then((file) => file.ScalesPage),
      },
      {
        path: 'filings/:filing/:period',
        title: 'Return · Woodruff',
        loadComponent: () => import('./filings/filing-page').then((file) => file.FilingPage),
      },
      {
        path: 'agencies',
        title: 'Agencies · Woodruff',
        loadComponent: () => import('./filings/agency-page').then((file) => file.AgencyPage),
      },
      {
        path: 'payments',
        title: 'Payments · Woodruff',
        loadComponent: () => import('./payments/ladder-page').then((file) => file.LadderPage),
      },
      {
        path: 'payments/batches/:id',
        title: 'Batch · Woodruff',
        loadComponent: () => import('./payments/batch-page').then((file) => file.BatchPage),
      },
      {
        path: 'payments/payees',
        title: 'Payees · Woodruff',
        loadComponent: () => import('./payments/payees-page').then((file) => file.PayeesPage),
      },
      {
        path: 'payments/payees/:owed',
        title: 'Payee · Woodruff',
        loadComponent: () => import('./payments/payee-page').then((file) => file.PayeePage),
      },
      {
        path: 'payments/cheques',
        title: 'Payments · Woodruff',
        loadComponent: () => import('./payments/cheques-page').then((file) => file.ChequesPage),
      },
      {
        path: 'payments/journal',
        title: 'Journal · Woodruff',
        loadComponent: () => import('./payments/journal-page').then((file) => file.JournalPage),
      },
      {
        path: 'payments/accounts',
        title: 'Accounts · Woodruff',
        loadComponent: () => import('./payments/accounts-page').then((file) => file.AccountsPage),
      },
      {
        path: 'payments/tie-outs',
        title: 'Tie-outs · Woodruff',
        loadComponent: () => import('./payments/tie-outs-page').then((file) => file.TieOutsPage),
      },
      {
        path: 'payments/funding',
        title: 'Funding · Woodruff',
        loadComponent: () => import('./payments/funding-page').then((file) => file.FundingPage),
      },
      {
        path: 'payments/bank',
        title: 'Bank · Woodruff',
        loadComponent: () => import('./payments/bank-page').then((file) => file.BankPage),
      },
      {
        path: 'payments/accruals',
        title: 'Month’s end · Woodruff',
        loadComponent: () => import('./payments/accruals-page').then((file) => file.AccrualsPage),
      },
      {
        path: 'payments/costs',
        title: 'Costs · Woodruff',
        loadComponent: () => import('./payments/costs-page').then((file) => file.CostsPage),
      },
      {
        path: 'payments/employer-taxes',
        title: 'Employer taxes · Woodruff',
        loadComponent: () => import('./payments/employer-taxes-page').then((file) => file.EmployerTaxesPage),
      },
      {
        path: 'pay-runs/:id/journal',
        title: 'What the run posts · Woodruff',
        loadComponent: () => import('./payments/run-journal-page').then((file) => file.RunJournalPage),
      },
      { path: '**', redirectTo: 'today' },
    ],
  },
  { path: '**', redirectTo: '' },
];
