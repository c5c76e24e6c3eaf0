import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import type { PersonRow, ProblemDetail } from '@woodruff/contract';
import { counted, minorOf, written } from '@woodruff/core';
import { AgGridAngular } from 'ag-grid-angular';
import type { CellEditRequestEvent, ColDef, GridApi, RowSelectedEvent } from 'ag-grid-community';
import { Api, problemOf } from '../api/api';
import { pastedColumn } from '../kit/grid';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { CountedPipe } from '../kit/words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { employerStore, peopleStore } from '../people/people.store';
import { selectEmployer } from '../session/session.store';
import { readAmount } from './entries';

interface Row {
  personId: string;
  name: string;
  department: string;
  amount: string;
}

/** A run beside the regular ones: what it pays, to whom, which items apply, and how it is taxed. */
@Component({
  selector: 'wr-special-run-new',
  imports: [AgGridAngular, CountedPipe, FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page fill" (paste)="paste($event)">
      <div class="title-line">
        <h1>Special run</h1>
        <span class="muted">Apart from the regular runs: without salary and standard hours, on any dates</span>
        <button class="main-action right" type="button" [disabled]="!people().length" (click)="start()">{{ startWords() }}</button>
      </div>
      <div class="form">
        <label class="field">Name <input [(ngModel)]="name" placeholder="Year-end bonus" /></label>
        <label class="field"
          >For the people of
          <select [ngModel]="scheduleId()" (ngModelChange)="scheduleId.set($event)">
            @for (schedule of employer()?.schedules; track schedule.id) {
              <option [value]="schedule.id">{{ schedule.name }}</option>
            }
          </select></label
        >
        <label class="field">Paid on <input type="date" [(ngModel)]="payDate" /></label>
        <label class="field"
          >{{ beside()?.label }}
          <select [ngModel]="taxMethod()" (ngModelChange)="chosenMethod.set($event)">
            @for (method of beside()?.methods; track method.code) {
              <option [value]="method.code">{{ method.label }}</option>
            }
          </select></label
        >
        <label class="field"
          >Recurring items
          <select [ngModel]="which()" (ngModelChange)="which.set($event)">
            <option value="none">none of them</option>
            <option value="ordinary">all deductions and contributions</option>
            <option value="chosen">those chosen below</option>
          </select></label
        >
        <label class="field"
          >What is paid
          <select [ngModel]="item()" (ngModelChange)="chosenItem.set($event)">
            @for (one of earnings(); track one.code) {
              <option [value]="one.code">{{ one.name }}</option>
            }
          </select></label
        >
      </div>
      @if (which() === 'chosen') {
        <div class="chosen">
          @for (one of recurring(); track one.code) {
            <label class="check"
              ><input type="checkbox" [checked]="codes().has(one.code)" (change)="toggle(one.code)" /> {{ one.name }}</label
            >
          }
        </div>
      }
      <label class="check"
        ><input type="checkbox" [ngModel]="takesWaiting()" (ngModelChange)="takesWaiting.set($event)" /> Also takes one-offs of
        {{ itemName() }} that wait for these people</label
      >
      <div class="row-of tools">
        <label
          >The same for all chosen <input class="entry amount" inputmode="decimal" [ngModel]="same()" (ngModelChange)="same.set($event)"
        /></label>
        <button type="button" class="quiet" [disabled]="!same()" (click)="fill()">Enter it</button>
        <span class="muted"
          >Choose people by the box; type or paste amounts. Who cannot be paid yet is not listed.
          {{ people().length | counted: 'person' : 'people' }}, total {{ sum() }}.</span
        >
      </div>
      <wr-problem [problem]="problem()" />
      <ag-grid-angular
        class="grid"
        [columnDefs]="columns"
        [rowData]="rows()"
        [getRowId]="rowId"
        [rowSelection]="selection"
        (gridReady)="grid = $event.api"
        (firstDataRendered)="person() && $event.api.selectAll()"
        (rowSelected)="selected($event)"
        (cellEditRequest)="typed($event)"
      />
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
      min-height: 200px;
      border-top: 1px solid var(--ink);
    }
    .chosen {
      columns: 3;
      max-height: 120px;
      overflow: auto;
      font-size: 14px;
      margin-bottom: 8px;
    }
    .tools {
      font-size: 14px;
      margin: 8px 0;
    }
    .amount {
      display: inline-block;
      width: 110px;
      margin: 0 0 0 6px;
    }
  `,
})
export class SpecialRunNew {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly employer = this.store.selectSignal(employerStore.selectData);
  private readonly everybody = this.store.selectSignal(peopleStore.selectData);
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  /** From the address: a second payslip for one person, on the day of the first. */
  readonly person = input('', { transform: (value: string | undefined) => value ?? '' });
  readonly on = input('', { transform: (value: string | undefined) => value ?? '' });
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected grid: GridApi<Row> | undefined;
  protected readonly selection = { mode: 'multiRow' as const, headerCheckbox: true, checkboxes: true };
  protected readonly scheduleId = signal('');
  protected readonly which = signal('none');
  protected readonly codes = signal<ReadonlySet<string>>(new Set());
  protected readonly chosenItem = signal('');
  protected readonly same = signal('');
  protected readonly takesWaiting = signal(false);
  private readonly chosen = signal<ReadonlySet<string>>(new Set());
  private readonly amounts = signal<Readonly<Record<string, string>>>({});
  protected name = '';
  protected payDate = '';
  private readonly pack = injectPack();
  protected readonly beside = computed(() => this.pack()?.paidBeside);
  protected readonly chosenMethod = signal('');
  protected readonly taxMethod = computed(() => this.chosenMethod() || (this.beside()?.methods[0]?.code ?? ''));
  protected readonly earnings = computed(
    () => this.items()?.filter((item) => !item.retired && item.kind === 'earning' && item.method.by === 'amount') ?? [],
  );
  protected readonly recurring = computed(() => this.items()?.filter((item) => !item.retired && item.held > 0) ?? []);
  protected readonly item = computed(
    () => this.chosenItem() || this.earnings().find((item) => item.code === 'bonus')?.code || this.earnings()[0]?.code || '',
  );
  protected readonly itemName = computed(() => this.earnings().find((item) => item.code === this.item())?.name ?? 'the item');
  protected readonly rows = computed((): Row[] => {
    const schedule = this.employer()?.schedules.find((one) => one.id === this.scheduleId())?.name;
    return (this.everybody() ?? [])
      .filter(
        (person: PersonRow) =>
          (!this.person() || person.id === this.person()) &&
          person.payable &&
          person.schedule === schedule &&
          (!person.left || person.left >= (this.session()?.today ?? '')),
      )
      .map((person) => ({
        personId: person.id,
        name: person.name,
        department: person.department,
        amount: this.amounts()[person.id] ?? '',
      }));
  });
  protected readonly people = computed(() => this.rows().filter((row) => this.chosen().has(row.personId) || row.amount));
  protected readonly sum = computed(() => written(this.people().reduce((sum, row) => sum + minorOf(row.amount || '0'), 0)));
  protected readonly startWords = computed(() => {
    const count = this.people().length;
    return count ? `Start the run for ${counted(count, 'person', 'people')}` : 'Nobody is chosen yet';
  });
  protected readonly columns: ColDef<Row>[] = [
    { headerName: 'Person', field: 'name', flex: 2 },
    { headerName: 'Department', field: 'department', flex: 1.4 },
    {
      headerName: 'Amount',
      field: 'amount',
      flex: 1,
      editable: true,
      headerClass: 'figures',
      cellClass: ({ value }) => ['figures', 'entry-cell', value ? 'corner' : ''],
    },
  ];
  protected readonly rowId = ({ data }: { data: Row }): string => data.personId;

  constructor() {
    effect(() => {
      const session = this.session();
      if (!session) return;
      this.payDate = this.on() || session.today;
      this.store.dispatch(employerStore.load({ input: {}, keep: true }));
      this.store.dispatch(peopleStore.load({ input: {}, keep: true }));
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    });
    effect(() => {
      const schedules = this.employer()?.schedules ?? [];
      const person = this.everybody()?.find((one) => one.id === this.person());
      if (person) {
        this.chosen.set(new Set([person.id]));
        this.name ||= `Second payslip, ${person.name}`;
      }
      const first = schedules.find((one) => one.name === person?.schedule) ?? schedules[0];
      if (first && !this.scheduleId()) this.scheduleId.set(first.id);
    });
  }

  protected toggle(code: string): void {
    this.codes.update((codes) => {
      const next = new Set(codes);
      if (!next.delete(code)) next.add(code);
      return next;
    });
  }

  protected selected({ data, node }: RowSelectedEvent<Row>): void {
    if (!data) return;
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (node.isSelected()) next.add(data.personId);
      else next.delete(data.personId);
      return next;
    });
  }

  protected typed(event: CellEditRequestEvent<Row>): void {
    this.enter({ [event.data.personId]: String(event.newValue ?? '') });
  }

  protected fill(): void {
    this.enter(
      Object.fromEntries(
        this.rows()
          .filter((row) => this.chosen().has(row.personId))
          .map((row) => [row.personId, this.same()]),
      ),
    );
  }

  protected paste(event: ClipboardEvent): void {
    const pasted = pastedColumn(this.grid, event, 'amount', (row) => row.personId);
    if (pasted) this.enter(pasted);
  }

  protected start(): void {
    this.problem.set(null);
    const item = this.item();
    this.api
      .call('startSpecialRun', {
        body: {
          scheduleId: this.scheduleId(),
          name: this.name,
          payDate: this.payDate,
          rules: {
            items: [...(this.which() === 'chosen' ? this.codes() : []), ...(this.takesWaiting() ? [item] : [])],
            ordinaryDeductions: this.which() === 'ordinary',
            taxMethod: this.taxMethod(),
            takesWaiting: this.takesWaiting(),
          },
          people: this.people().map((row) => ({ personId: row.personId, amounts: row.amount ? [{ item, amount: row.amount }] : [] })),
        },
      })
      .subscribe({
        next: ({ id }) => void this.router.navigate(['/pay-runs', id]),
        error: (error: unknown) => this.problem.set(problemOf(error)),
      });
  }

  private enter(values: Record<string, string>): void {
    const read: Record<string, string> = {};
    for (const [id, text] of Object.entries(values)) {
      const amount = readAmount(text);
      if ('fault' in amount)
        return this.problem.set({ type: '/problems/entry', title: amount.fault, detail: amount.fault, status: 0, code: 'entry' });
      read[id] = amount.value ?? '';
    }
    this.problem.set(null);
    this.amounts.update((amounts) => ({ ...amounts, ...read }));
  }
}
