import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { PersonRow } from '@woodruff/contract';
import { counted, writtenDate } from '@woodruff/core';
import { AgGridAngular } from 'ag-grid-angular';
import type { CellKeyDownEvent, ColDef, FullWidthCellKeyDownEvent, GridApi, GridReadyEvent, RowClickedEvent } from 'ag-grid-community';
import { Api } from '../api/api';
import '../kit/grid';
import { Keys } from '../kit/keys';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { listed } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { peopleStore } from './people.store';

/** Everyone of the employer. Filter, order and who is shown are in the address, so that back returns to the same list. */
@Component({
  selector: 'wr-people-list',
  imports: [AgGridAngular, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page fill">
      <div class="title-line">
        <h1>People</h1>
        <span class="muted">{{ counts() }}</span>
        @if (pack()?.notices) {
          <a class="quiet" routerLink="/people/notices">Notices</a>
        }
        @if (pack()?.enrolment; as enrolment) {
          <a class="quiet" routerLink="/people/enrolment">{{ enrolment.title }}</a>
        }
        @if (mayPrepare()) {
          <a class="quiet right" routerLink="/people/groups">Groups</a>
          <a class="quiet beside" routerLink="/people/import">From a file</a>
          <a class="main-action beside" routerLink="/people/new">Add a person</a>
        }
      </div>
      <div class="row-of tools">
        @for (choice of choices; track choice.value) {
          <button type="button" class="quiet" [class.on]="shown() === choice.value" (click)="go({ show: choice.value })">
            {{ choice.label }}
          </button>
        }
        <span class="right muted export">
          @if (pack()?.deductionSheet; as record) {
            <a [href]="sheets()" target="_blank">{{ record.name }}s, PDF</a>,
          }
          Export <a [href]="xlsx()">XLSX</a>, <a [href]="csv()">CSV</a></span
        >
        <label
          >Filter
          <input
            class="entry filter"
            type="search"
            [value]="text()"
            (input)="go({ text: $any($event.target).value })"
            placeholder="name, job, department …"
        /></label>
      </div>
      <wr-problem [problem]="problem()" />
      @if (rows(); as rows) {
        @if (rows.length) {
          <ag-grid-angular
            class="grid"
            [columnDefs]="columns"
            [rowData]="rows"
            [quickFilterText]="text()"
            [getRowId]="rowId"
            (gridReady)="ready($event)"
            (rowClicked)="open($event)"
            (cellKeyDown)="key($event)"
            (sortChanged)="sorted()"
          />
        } @else {
          <p class="notice">
            Nobody is on file yet. <a routerLink="/people/new">Add the first person</a>, or
            <a routerLink="/people/import">bring everybody over from a file</a>; what is not known yet can be entered later.
          </p>
        }
      } @else if (!problem()) {
        <p class="muted">Fetching the people …</p>
      }
    </main>
  `,
  styles: `
    .fill {
      display: flex;
      flex-direction: column;
      height: 100%;
      padding-bottom: 0;
    }
    .grid {
      flex: 1;
      border-top: 1px solid var(--ink);
    }
    .tools {
      margin-bottom: 8px;
      font-size: 14px;
    }
    .filter {
      display: inline-block;
      width: 220px;
      margin: 0 0 0 8px;
      font-size: 14px;
    }
    a.main-action {
      text-decoration: none;
    }
    .title-line .beside {
      margin-left: 0;
    }
  `,
})
export class PeopleList {
  protected sheets = (): string => this.calls.url('deductionSheets');
  protected readonly pack = injectPack();
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly calls = inject(Api);
  private api: GridApi<PersonRow> | undefined;
  /** From the address. */
  readonly text = input('', { transform: (value: string | undefined) => value ?? '' });
  readonly show = input('here', { transform: (value: string | undefined) => value ?? 'here' });
  /** The person that was opened last: back returns to the same row. */
  readonly at = input('', { transform: (value: string | undefined) => value ?? '' });
  readonly order = input('', { transform: (value: string | undefined) => value ?? '' });
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly all = this.store.selectSignal(peopleStore.selectData);
  protected readonly problem = this.store.selectSignal(peopleStore.selectProblem);
  protected readonly shown = computed(() => this.show());
  protected readonly choices = [
    { value: 'here', label: 'Employed' },
    { value: 'unfinished', label: 'To finish' },
    { value: 'left', label: 'Left' },
    { value: 'all', label: 'Everyone' },
  ];
  private readonly hasLeft = (row: PersonRow): boolean => row.left !== null && row.left < (this.employer()?.today ?? '');
  protected readonly rows = computed(() => {
    const all = this.all();
    if (!all) return null;
    switch (this.shown()) {
      case 'left':
        return all.filter(this.hasLeft);
      case 'unfinished':
        return all.filter((row) => row.missing.length);
      case 'all':
        return all;
      default:
        return all.filter((row) => !this.hasLeft(row));
    }
  });
  protected readonly counts = computed(() => {
    const all = this.all() ?? [];
    const left = all.filter(this.hasLeft).length;
    return all.length ? `${counted(all.length - left)} employed, ${counted(left)} left` : '';
  });
  protected readonly columns: ColDef<PersonRow>[] = [
    { field: 'name', headerName: 'Name', flex: 2, minWidth: 170 },
    { field: 'code', headerName: 'Code', width: 80 },
    { field: 'job', headerName: 'Job', flex: 1.4, minWidth: 120 },
    { field: 'department', headerName: 'Department', flex: 1, minWidth: 100 },
    { field: 'worksite', headerName: 'Worksite', flex: 1.2, minWidth: 120 },
    { field: 'schedule', headerName: 'Paid', width: 120 },
    { field: 'pay', headerName: 'Pay', flex: 1.2, minWidth: 140, cellClass: 'figures', headerClass: 'figures' },
    {
      field: 'hired',
      headerName: 'Hired',
      width: 110,
      valueFormatter: ({ value }: { value?: string | null }) => (value ? writtenDate(value) : ''),
    },
    { headerName: 'Missing', flex: 1.6, minWidth: 140, valueGetter: ({ data }) => listed(data?.missing ?? []), cellClass: 'attention' },
  ];
  protected readonly xlsx = computed(() => (this.employer(), this.calls.url('peopleXlsx')));
  protected readonly csv = computed(() => (this.employer(), this.calls.url('peopleCsv')));
  protected readonly rowId = ({ data }: { data: PersonRow }): string => data.id;

  constructor() {
    effect(() => {
      if (this.employer()) this.store.dispatch(peopleStore.load({ input: {}, keep: true }));
    });
    inject(DestroyRef).onDestroy(
      inject(Keys).add({ keys: 'n', label: 'Add a person', run: () => void this.router.navigateByUrl('/people/new') }),
    );
  }

  protected ready({ api }: GridReadyEvent<PersonRow>): void {
    this.api = api;
    const [column, direction] = this.order().split(' ');
    if (column) api.applyColumnState({ state: [{ colId: column, sort: direction === 'desc' ? 'desc' : 'asc' }] });
    const row = this.at() ? api.getRowNode(this.at()) : undefined;
    if (row) api.ensureNodeVisible(row, 'middle');
    if (row?.rowIndex != null) api.setFocusedCell(row.rowIndex, 'name');
  }

  protected sorted(): void {
    const sorted = this.api?.getColumnState().find((column) => column.sort);
    void this.go({ order: sorted ? `${sorted.colId} ${sorted.sort}` : '' });
  }

  protected open({ data }: RowClickedEvent<PersonRow>): void {
    if (data) this.openPerson(data.id);
  }

  protected key(event: CellKeyDownEvent<PersonRow> | FullWidthCellKeyDownEvent<PersonRow>): void {
    if ((event.event as KeyboardEvent).key === 'Enter' && event.data) this.openPerson(event.data.id);
  }

  private openPerson(id: string): void {
    void this.go({ at: id }).then(() => this.router.navigate(['/people', id]));
  }

  protected go(query: Record<string, string>): Promise<boolean> {
    return this.router.navigate([], {
      queryParams: Object.fromEntries(Object.entries(query).map(([key, value]) => [key, value || null])),
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }
}
