import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  TemplateRef,
  untracked,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { NgbDropdownModule, NgbModal } from '@ng-bootstrap/ng-bootstrap';
import { Store } from '@ngrx/store';
import type { Totals } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Keys } from '../kit/keys';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe, PeriodPipe, RunKindPipe } from '../kit/words';
import { selectEmployer, selectMay, selectMayPrepare } from '../session/session.store';
import { workingActions, workingFeature } from '../working/working.store';
import { panelOfPage } from '../working/page-with-panel';
import { WorkingPanel } from '../working/working-panel';
import { PayslipEdit } from './payslip-edit';
import { runActions, runFeature } from './pay-runs.store';
import { RunActs, type Act } from './run-acts';
import { RunDifferences } from './run-differences';
import { RunPoints } from './run-points';
import { RunReview } from './run-review';
import { RunAgain } from './run-again';
import { RunSheet, type Filter } from './run-sheet';
import { COLUMN_SETS, type ColumnSet } from './sheet-columns';

type View = 'sheet' | 'points' | 'review' | 'differences' | 'not-in';

/** A run: its sheet, open points and differences, the payslip or working beside it, totals at the foot. */
@Component({
  selector: 'wr-run-page',
  imports: [
    CountedPipe,
    DayPipe,
    MoneyPipe,
    NgbDropdownModule,
    PayslipEdit,
    PeriodPipe,
    RunKindPipe,
    Problem,
    RouterLink,
    RunActs,
    RunAgain,
    RunDifferences,
    RunPoints,
    RunReview,
    RunSheet,
    WorkingPanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-page.html',
  styleUrl: './run-page.scss',
})
export class RunPage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly modals = inject(NgbModal);
  private readonly api = inject(Api);
  readonly id = input.required<string>();
  readonly view = input<View, string | undefined>('sheet', { transform: (value) => (value as View | undefined) ?? 'sheet' });
  readonly against = input('', { transform: (value: string | undefined) => value ?? '' });
  readonly columns = input<ColumnSet, string | undefined>('all', {
    transform: (value) => (value && value in COLUMN_SETS ? (value as ColumnSet) : 'all'),
  });
  readonly filter = input<Filter, string | undefined>('all', { transform: (value) => (value as Filter | undefined) ?? 'all' });
  private readonly employer = this.store.selectSignal(selectEmployer);
  private readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly mayPay = this.store.selectSignal(selectMay('pay-out'));
  private readonly loaded = this.store.selectSignal(runFeature.selectSheet);
  protected readonly sheet = computed(() => (this.loaded()?.run.id === this.id() ? this.loaded() : null));
  protected readonly progress = this.store.selectSignal(runFeature.selectProgress);
  protected readonly problem = this.store.selectSignal(runFeature.selectProblem);
  protected readonly recalculation = this.store.selectSignal(runFeature.selectRecalculation);
  protected readonly approving = this.store.selectSignal(runFeature.selectApproving);
  protected readonly frame = panelOfPage();
  protected readonly payslip = this.store.selectSignal(workingFeature.selectPayslip);
  protected readonly editable = computed(() => this.sheet()?.run.state === 'open' && this.mayPrepare());
  protected readonly editor = this.mayPrepare;
  protected readonly act = signal<Act>(null);
  /** Of a draft that is deleted. */
  protected readonly timeGoes = signal<'keep' | 'discard'>('keep');
  protected readonly columnSets = COLUMN_SETS;
  protected readonly columnChoices = Object.keys(COLUMN_SETS) as ColumnSet[];
  protected readonly mayApprove = computed(() => this.sheet()?.mayApprove ?? false);
  protected readonly mayReverse = computed(() => this.employer()?.rights.includes('approve') ?? false);
  protected readonly openPoints = computed(() => this.sheet()?.points.filter((point) => !point.accepted) ?? []);
  protected readonly gather = computed(() => this.openPoints().filter((point) => point.stage === 'gather').length);
  protected readonly check = computed(() => this.openPoints().filter((point) => point.stage === 'check').length);
  protected readonly changed = computed(
    () => this.sheet()?.rows.filter((row) => row.included && (row.previousNet === null || row.previousNet !== row.totals.net)).length ?? 0,
  );
  protected readonly edited = computed(
    () => this.sheet()?.rows.filter((row) => Object.keys(row.edits).length || !row.included).length ?? 0,
  );
  protected readonly chosenOneOff = signal('');
  protected readonly oneOffItem = computed(
    () =>
      this.chosenOneOff() ||
      this.sheet()?.oneOffItems.find((item) => item.code === 'bonus')?.code ||
      this.sheet()?.oneOffItems[0]?.code ||
      '',
  );
  protected readonly oneOffName = computed(() => this.sheet()?.oneOffItems.find((item) => item.code === this.oneOffItem())?.name ?? '');
  protected readonly losses = signal<{ payslipId: string; name: string; lost: string[] }[]>([]);
  protected readonly totals: { key: keyof Totals; figure: string; label: string }[] = [
    { key: 'gross', figure: 'gross', label: 'Gross' },
    { key: 'taxes', figure: 'taxes', label: 'Taxes' },
    { key: 'deductions', figure: 'deductions', label: 'Deductions' },
    { key: 'net', figure: 'net', label: 'Net' },
    { key: 'employerCost', figure: 'employer-cost', label: 'Employer pays' },
  ];

  /** Pairs of the books that do not agree; asked again as soon as something was posted. */
  protected readonly untied = signal<string[]>([]);

  constructor() {
    effect(() => {
      if (this.sheet()?.run.state !== 'approved') return;
      untracked(() =>
        this.api.call('untied', {}).subscribe({
          next: (pairs) => this.untied.set(pairs.map(({ what }) => what)),
          error: () => this.untied.set([]),
        }),
      );
    });
    effect(() => {
      const runId = this.id();
      if (!this.employer()) return;
      untracked(() => {
        this.store.dispatch(workingActions.close());
        this.act.set(null);
        this.store.dispatch(runActions.open({ runId }));
      });
    });
    const takeBack = inject(Keys).add(
      { keys: 'j', label: 'Next person', run: () => this.step(1) },
      { keys: 'k', label: 'Previous person', run: () => this.step(-1) },
      { keys: 'Ctrl+z', label: 'Take the last entry back', run: () => this.takeBack() },
      { keys: 'Ctrl+Enter', label: 'Approve the run', run: () => this.mainAction?.() },
      { keys: 's', label: 'The sheet', run: () => this.go({ view: null, filter: null }) },
      { keys: 'o', label: 'Open points', run: () => this.go({ view: 'points' }) },
      { keys: 'r', label: 'Review', run: () => this.go({ view: 'review' }) },
      { keys: 'd', label: 'Differences from the last run', run: () => this.go({ view: 'differences' }) },
    );
    inject(DestroyRef).onDestroy(takeBack);
  }

  private mainAction: (() => void) | undefined;

  protected readonly bindMainAction = (dialog: TemplateRef<unknown>): void => {
    this.mainAction = () => this.ask(dialog);
  };

  protected go(query: Record<string, string | null>): void {
    void this.router.navigate([], { queryParams: query, queryParamsHandling: 'merge' });
  }

  protected ask(dialog: TemplateRef<unknown>): void {
    if (this.openPoints().length) return this.go({ view: 'points' });
    if (!this.sheet()?.mayApprove) return;
    this.modals.open(dialog, { ariaLabelledBy: 'approve-title' });
  }

  protected approve(): void {
    const run = this.sheet()?.run;
    // The key is made when the dialog is answered: pressing twice, or a repeated request, approves once.
    if (run) this.store.dispatch(runActions.approve({ runId: run.id, version: run.version, key: crypto.randomUUID() }));
    this.modals.dismissAll();
  }

  /** Hands the run to the approver; open points come first. */
  protected submit(): void {
    const run = this.sheet()?.run;
    if (!run) return;
    if (this.openPoints().length) return this.go({ view: 'points' });
    this.api.call('submitRun', { path: { id: run.id }, body: { version: run.version } }).subscribe({
      next: () => this.reopen(),
      error: (error: unknown) => this.store.dispatch(runActions.refused({ problem: problemOf(error) })),
    });
  }

  /** Gathers what the run pays; the batch is released on its own page. */
  protected pay(payDate: string): void {
    const payingAccountId = this.sheet()?.payingAccountId ?? null;
    this.api.call('prepareBatch', { body: { kind: 'pay', payDate, payingAccountId } }).subscribe({
      next: ({ id }) => void this.router.navigate(['/payments/batches', id]),
      error: (error: unknown) => this.store.dispatch(runActions.refused({ problem: problemOf(error) })),
    });
  }

  protected fetchBack(): void {
    this.api.call('sendBackRun', { path: { id: this.id() }, body: { comment: '' } }).subscribe({
      next: () => this.reopen(),
      error: (error: unknown) => this.store.dispatch(runActions.refused({ problem: problemOf(error) })),
    });
  }

  protected reopen(): void {
    this.store.dispatch(runActions.open({ runId: this.id() }));
  }

  protected calculate(): void {
    this.store.dispatch(runActions.calculate({ runId: this.id() }));
  }

  /** The file is read here and taken as a whole or not at all by the server. */
  protected importHours(chooser: HTMLInputElement): void {
    const file = chooser.files?.[0];
    chooser.value = '';
    if (file) void file.text().then((csv) => this.store.dispatch(runActions.importHours({ runId: this.id(), csv })));
  }

  protected askRebuild(dialog: TemplateRef<unknown>): void {
    this.api.call('wouldLose', { path: { id: this.id() } }).subscribe((losses) => {
      this.losses.set(losses);
      this.modals.open(dialog, { ariaLabelledBy: 'rebuild-title' });
    });
  }

  protected rebuildAll(): void {
    this.store.dispatch(runActions.rebuild({ runId: this.id() }));
    this.modals.dismissAll();
  }

  protected askRemove(dialog: TemplateRef<unknown>): void {
    this.modals.open(dialog, { ariaLabelledBy: 'remove-title' });
  }

  protected remove(): void {
    this.store.dispatch(runActions.remove({ runId: this.id(), time: this.timeGoes() }));
    this.modals.dismissAll();
  }

  protected dismissRecalculation(): void {
    this.store.dispatch(runActions.dismissRecalculation());
  }

  protected dismiss(): void {
    this.store.dispatch(runActions.dismissProblem());
  }

  protected url(name: 'register' | 'registerSheet' | 'runPdf' | 'runSummary'): string {
    return this.api.url(name, { path: { id: this.id() } });
  }

  /** A total opens to the people behind it, largest first. */
  protected openTotal(total: { key: keyof Totals; figure: string; label: string }): void {
    const entries = (this.sheet()?.rows ?? [])
      .filter((row) => row.included && row.totals[total.key] !== 0)
      .map((row) => ({ payslipId: row.payslipId, name: row.name, amount: row.totals[total.key] }))
      .sort((a, b) => b.amount - a.amount);
    this.store.dispatch(workingActions.open({ frame: { kind: 'total', title: total.label, figure: total.figure, entries }, anew: true }));
  }

  private step(by: number): void {
    const rows = this.sheet()?.rows ?? [];
    const frame = this.frame();
    const at = rows.findIndex((row) => frame && 'payslipId' in frame && row.payslipId === frame.payslipId);
    const next = rows[at < 0 ? 0 : at + by];
    if (next)
      this.store.dispatch(
        workingActions.open({
          frame: frame?.kind === 'figure' ? { ...frame, payslipId: next.payslipId } : { kind: 'payslip', payslipId: next.payslipId },
          anew: true,
        }),
      );
  }

  private takeBack(): void {
    if (this.editable()) this.store.dispatch(runActions.undo());
  }
}
