import { ChangeDetectionStrategy, Component, computed, effect, HostListener, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail, TakenFromClock, TimeLine, TimePage, TimeRow } from '@woodruff/contract';
import { Exact, writtenDay } from '@woodruff/core';
import { AgGridAngular } from 'ag-grid-angular';
import type { CellClickedEvent, CellEditRequestEvent, ColDef, GridApi } from 'ag-grid-community';
import { catchError, concatMap, defer, EMPTY, Subject, switchMap, tap, type Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import '../kit/grid';
import { chosenFile, type ReadAs, type SentFile } from '../kit/chosen-file';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, PeriodPipe } from '../kit/words';
import { notTaken, readBlock } from '../pay-runs/entries';
import { employerStore } from '../people/people.store';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { changeInWords } from './change-in-words';
import { AskedChanges } from './asked-changes';
import { hoursOfDay, isPlainDay, readDay, withDay } from './day-cells';
import { datesOf, DayLines } from './day-lines';
import { timeStore } from './time.store';

const STATES: Record<TimeRow['state'], string> = {
  none: '–',
  open: 'open',
  submitted: 'submitted',
  approved: 'approved',
  returned: 'returned',
};
const DAYS = ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'];

/** The time of a period: hours typed day by day, what the rules make of them beside, submitted, approved, locked. */
@Component({
  selector: 'wr-time-page',
  imports: [CountedPipe, AgGridAngular, AskedChanges, DayLines, DayPipe, FormsModule, PeriodPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './time-page.html',
  styleUrl: './time-page.scss',
})
export class TimePageView {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  /** From the address. */
  readonly schedule = input('', { transform: (value: string | undefined) => value ?? '' });
  readonly from = input('', { transform: (value: string | undefined) => value ?? '' });
  readonly person = input('', { transform: (value: string | undefined) => value ?? '' });
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly page = this.store.selectSignal(timeStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(timeStore.selectProblem);
  protected readonly employer = this.store.selectSignal(employerStore.selectData);
  protected readonly problem = signal<ProblemDetail | null>(null);
  private file: SentFile | null = null;
  /** Rows that changed since the page was loaded, as the server has them now. */
  private readonly newer = signal<Readonly<Record<string, TimeRow>>>({});
  protected readonly open = signal<TimeRow | null>(null);
  protected readonly taken = signal<TakenFromClock | null>(null);
  /** A change was accepted in a period that is paid already. */
  protected readonly forBackPay = signal(false);
  protected readonly act = signal<'return' | 'unlock' | null>(null);
  protected words = '';
  protected grid: GridApi<TimeRow> | undefined;
  protected readonly rows = computed(() => this.page()?.rows.map((row) => this.newer()[row.personId] ?? row) ?? []);
  protected readonly editable = computed(() => this.mayPrepare() && !!this.page() && !this.page()!.locked);
  protected readonly waiting = computed(() =>
    this.rows().filter((row) => row.state === 'open' || row.state === 'submitted' || row.state === 'returned'),
  );
  protected readonly withPoints = computed(() => this.rows().filter((row) => toLookAt(row).length).length);
  protected readonly approved = computed(() => this.rows().filter((row) => row.state === 'approved').length);
  /** What was entered and asked for, in that order: each begins when the one before is answered. */
  private readonly turns = new Subject<Observable<unknown>>();
  protected readonly columns = computed((): ColDef<TimeRow>[] => {
    const page = this.page();
    if (!page) return [];
    return [
      { headerName: 'Person', field: 'name', width: 150, flex: 1, minWidth: 150, maxWidth: 320, pinned: 'left', colId: 'person' },
      ...datesOf(page.from, page.to).map((date): ColDef<TimeRow> => {
        const day = new Date(`${date}T00:00:00Z`).getUTCDay();
        return {
          colId: date,
          headerName: `${DAYS[day]} ${Number(date.slice(8))}`,
          width: 50,
          headerClass: 'figures',
          editable: ({ data }) => this.editable() && !!data && isPlainDay(data, date),
          valueGetter: ({ data }) => (data ? hoursOfDay(data, date) : ''),
          valueFormatter: ({ value, data }) => String(value || leaveOfDay(data, date) || '–'),
          tooltipValueGetter: ({ data }) =>
            data?.leave.find((day) => day.date === date) ? `${leaveOfDay(data, date)} hours of approved leave` : '',
          cellClass: ({ data }) => [
            'figures',
            this.editable() ? 'entry-cell' : '',
            day === 0 || day === 6 ? 'weekend' : '',
            data && !isPlainDay(data, date) ? 'corner' : '',
          ],
        };
      }),
      { headerName: 'Hours', width: 60, headerClass: 'figures', cellClass: 'figures group-start', valueGetter: ({ data }) => sumOf(data) },
      {
        headerName: 'Paid as',
        flex: 1,
        minWidth: 150,
        valueGetter: ({ data }) => data?.paid.map((one) => `${one.label} ${one.hours}`).join(', ') ?? '',
      },
      { headerName: 'Sheet', width: 80, valueGetter: ({ data }) => STATES[data?.state ?? 'none'] },
      { headerName: 'To check', width: 130, cellClass: 'attention', valueGetter: ({ data }) => (data ? toLookAt(data).join('; ') : '') },
    ];
  });
  protected readonly rowId = ({ data }: { data: TimeRow }): string => data.personId;

  constructor() {
    effect(() => {
      if (!this.session()) return;
      this.newer.set({});
      this.load(this.schedule(), this.from());
      this.store.dispatch(employerStore.load({ input: {}, keep: true }));
    });
    effect(() => {
      const id = this.person();
      if (id && this.page()) this.look(id);
      else this.open.set(null);
    });
    this.turns
      .pipe(
        concatMap((turn) =>
          turn.pipe(
            catchError((error: unknown) => {
              this.problem.set(problemOf(error));
              return EMPTY;
            }),
          ),
        ),
      )
      .subscribe();
  }

  protected go(query: Record<string, string | null>): void {
    void this.router.navigate([], { queryParams: query, queryParamsHandling: 'merge' });
  }

  protected typed(event: CellEditRequestEvent<TimeRow>): void {
    this.enter(event.data, event.colDef.colId ?? '', String(event.newValue ?? ''));
  }

  protected clicked({ data, colDef }: CellClickedEvent<TimeRow>): void {
    if (data && (colDef.colId === 'person' || !colDef.colId?.startsWith('20') || !isPlainDay(data, colDef.colId)))
      this.go({ person: data.personId });
  }

  /** A block copied from a spreadsheet goes in from the focused day on. */
  @HostListener('paste', ['$event'])
  protected paste(event: ClipboardEvent): void {
    const focused = this.grid?.getFocusedCell();
    const page = this.page();
    if (!this.grid || !page || !focused?.column.getColId().startsWith('20') || this.grid.getEditingCells().length || !this.editable())
      return;
    event.preventDefault();
    const dates = datesOf(page.from, page.to);
    const first = dates.indexOf(focused.column.getColId());
    readBlock(event.clipboardData?.getData('text') ?? '').forEach((cells, down) => {
      const row = this.grid?.getDisplayedRowAtIndex(focused.rowIndex + down)?.data;
      if (!row) return;
      const days: { date: string; value: string | null }[] = [];
      for (const [across, text] of cells.entries()) {
        const date = dates[first + across];
        const read = readDay(text);
        if ('fault' in read) return this.problem.set(notTaken(read.fault));
        if (date) days.push({ date, value: read.value });
      }
      this.save(row, (lines) => days.reduce<TimeLine[]>((all, { date, value }) => withDay(all as TimeRow['lines'], date, value), lines));
    });
  }

  protected saveLines(lines: TimeLine[]): void {
    const row = this.open();
    if (row) this.save(row, () => lines);
  }

  protected approveAll(): void {
    this.setState(
      this.waiting()
        .filter((row) => row.state !== 'returned')
        .map((row) => row.personId),
      'approved',
    );
  }

  protected setState(personIds: string[], state: 'approved' | 'returned' | 'submitted', comment = ''): void {
    const page = this.page();
    if (!page || !personIds.length) return;
    this.then(this.api.call('setTimeState', { body: { scheduleId: page.scheduleId, from: page.from, personIds, state, comment } }));
  }

  protected answer({ id, ...body }: { id: string; accept: boolean; answer: string }): void {
    this.then(this.api.call('answerTimeChange', { path: { id }, body }).pipe(tap(({ paid }) => this.forBackPay.set(paid))));
  }

  protected lock(): void {
    const page = this.page();
    if (page) this.then(this.api.call('lockTime', { body: { scheduleId: page.scheduleId, from: page.from } }));
  }

  protected unlock(): void {
    const page = this.page();
    if (page) this.then(this.api.call('unlockTime', { body: { scheduleId: page.scheduleId, from: page.from, reason: this.words } }));
  }

  protected fromClock(): void {
    const page = this.page();
    if (!page) return;
    this.then(
      this.api
        .call('takeFromClock', { body: { scheduleId: page.scheduleId, from: page.from } })
        .pipe(tap((taken) => this.taken.set(taken))),
    );
  }

  protected forgetTaken(): void {
    this.taken.set(null);
  }

  protected csv(page: TimePage): string {
    return this.api.url('timeCsv', { query: { scheduleId: page.scheduleId, from: page.from } });
  }

  protected async choose(chooser: HTMLInputElement): Promise<void> {
    this.file = (await chosenFile(chooser)) ?? this.file;
    this.importFile({});
  }

  protected importFile(readAs: ReadAs): void {
    const page = this.page();
    if (!this.file || !page) return;
    this.file = { ...this.file, ...readAs };
    this.then(this.api.call('importTime', { body: { scheduleId: page.scheduleId, from: page.from, ...this.file } }));
  }

  private enter(row: TimeRow, date: string, text: string): void {
    const read = readDay(text);
    if ('fault' in read) return this.problem.set(notTaken(read.fault));
    this.problem.set(null);
    this.save(row, (lines) => withDay(lines, date, read.value));
  }

  /** Changes what the save before it has left, however fast both were typed. What is typed after one that is not taken is saved all the same. */
  private save(row: TimeRow, change: (lines: TimeRow['lines']) => TimeLine[]): void {
    this.turns.next(
      defer(() => {
        const page = this.page()!;
        const now = this.newer()[row.personId] ?? row;
        return this.api.call('saveTime', {
          body: {
            scheduleId: page.scheduleId,
            from: page.from,
            sheets: [{ personId: row.personId, version: now.version, lines: change(now.lines) }],
          },
        });
      }).pipe(
        switchMap(() => this.rowNow(row.personId)),
        tap((fresh) => this.take(fresh)),
      ),
    );
  }

  private look(id: string): void {
    this.rowNow(id).subscribe({ next: (row) => this.open.set(row), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  private rowNow(person: string): Observable<TimeRow> {
    const page = this.page()!;
    return this.api
      .call('timePage', { query: { scheduleId: page.scheduleId, from: page.from, person } })
      .pipe(switchMap((fresh) => fresh.rows.slice(0, 1)));
  }

  private take(row: TimeRow): void {
    this.newer.update((newer) => ({ ...newer, [row.personId]: row }));
    if (this.open()?.personId === row.personId) this.open.set(row);
  }

  /** Waits for what is being saved; not done where some of that was not taken. */
  private then(request: Observable<unknown>): void {
    this.problem.set(null);
    this.turns.next(
      defer(() => (this.problem() ? EMPTY : request)).pipe(
        tap(() => {
          this.act.set(null);
          this.words = '';
          this.newer.set({});
          this.load(this.schedule(), this.from());
          if (this.open()) this.look(this.open()!.personId);
        }),
      ),
    );
  }

  private load(scheduleId: string, from: string): void {
    this.store.dispatch(
      timeStore.load({ input: { query: { ...(scheduleId ? { scheduleId } : {}), ...(from ? { from } : {}) } }, keep: true }),
    );
  }
}

/** What is asked for, missing or doubtful. */
const toLookAt = ({ asked, points }: TimeRow): string[] => [
  ...asked.map(({ date, ...change }) => `${writtenDay(date).slice(0, -5)} asked to be ${changeInWords(change)}`),
  ...points,
];

/** Approved leave of a day: the plan's first letter and the hours. */
const leaveOfDay = (row: TimeRow | undefined, date: string): string => {
  const day = row?.leave.find((one) => one.date === date);
  return day ? `${day.plan.slice(0, 1)} ${day.hours}` : '';
};

const sumOf = (row: TimeRow | undefined): string => {
  if (!row?.lines.length) return '';
  return row.lines.reduce((sum, line) => sum.plus(Exact.of(line.hours)), Exact.whole(0)).toDecimal(2);
};
