import { ChangeDetectionStrategy, Component, computed, effect, HostListener, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { BodyOf, Effect, PayItemPage, ProblemDetail } from '@woodruff/contract';
import { writtenDecimal } from '@woodruff/core';
import { AgGridAngular } from 'ag-grid-angular';
import type { CellEditRequestEvent, ColDef, GridApi } from 'ag-grid-community';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { pastedColumn } from '../kit/grid';
import { Problem } from '../kit/problem';
import { peopleStore } from '../people/people.store';
import { selectEmployer } from '../session/session.store';
import { asksFor } from './pay-item-words';
import { CountedPipe } from '../kit/words';
import { typedNumber } from '@woodruff/core';

interface Row {
  personId: string;
  name: string;
  department: string;
  job: string;
  /** What holds on the chosen day, as text; null when the person does not have the item. */
  now: string | null;
  /** What is typed: an amount, `-` to end it, empty to leave it. */
  typed: string;
}

const END = '-';

/** Gives an item to many people, changes their amounts or ends it, in one grid; the effect is shown before it is saved. */
@Component({
  selector: 'wr-item-holders',
  imports: [CountedPipe, AgGridAngular, EffectOnRuns, FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="panel">
      <div class="row-of tools">
        <label
          >From <input class="entry date" type="date" name="from" [ngModel]="from()" (ngModelChange)="from.set($event); effect.set(null)"
        /></label>
        @for (choice of choices; track choice.value) {
          <button type="button" class="quiet" [class.on]="shown() === choice.value" (click)="shown.set(choice.value)">
            {{ choice.label }}
          </button>
        }
        <label class="right"
          >Filter <input class="entry filter" type="search" name="text" [ngModel]="text()" (ngModelChange)="text.set($event)"
        /></label>
      </div>
      <div class="row-of tools">
        @if (asks() !== 'nothing') {
          <label
            >{{ asks() === 'percent' ? 'Per cent' : 'Amount' }}
            <input class="entry amount" name="same" inputmode="decimal" [ngModel]="same()" (ngModelChange)="same.set($event)"
          /></label>
          <button type="button" class="quiet" (click)="fill(same())" [disabled]="!same()">Enter it for all shown</button>
        } @else {
          <button type="button" class="quiet" (click)="fill('yes')">Give it to all shown</button>
        }
        <button type="button" class="quiet" (click)="fill('-')">End it for all shown who have it</button>
        <span class="muted">{{ hint() }}</span>
      </div>
      <ag-grid-angular
        class="grid"
        [columnDefs]="columns()"
        [rowData]="rows()"
        [getRowId]="rowId"
        [quickFilterText]="text()"
        [isExternalFilterPresent]="filtering"
        [doesExternalFilterPass]="passes"
        (gridReady)="grid = $event.api"
        (cellEditRequest)="entered($event)"
      />
      <wr-problem [problem]="problem()" />
      @if (effect(); as effect) {
        <wr-effect [effect]="effect" />
      }
      <div class="form-actions">
        @if (effect()) {
          <button class="main-action" type="button" (click)="save()">Save for {{ entries().length | counted: 'person' : 'people' }}</button>
        } @else {
          <button class="main-action" type="button" [disabled]="!entries().length" (click)="preview()">Show what it changes</button>
        }
        <button class="quiet" type="button" (click)="left.emit()">Cancel</button>
        <span class="muted">{{ counted() }}</span>
      </div>
    </div>
  `,
  styles: `
    .panel {
      background: var(--sheet);
      border: 1px solid var(--rule);
      border-radius: 3px;
      padding: 14px 18px;
      margin: 10px 0;
    }
    .grid {
      display: block;
      height: 340px;
      border-top: 1px solid var(--ink);
    }
    .tools {
      font-size: 14px;
      margin-bottom: 8px;
    }
    .entry {
      display: inline-block;
      width: auto;
      font-size: 14px;
      margin: 0 0 0 6px;
    }
    .amount {
      width: 110px;
    }
    .filter {
      width: 200px;
    }
  `,
})
export class ItemHolders {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly item = input.required<PayItemPage>();
  readonly saved = output();
  readonly left = output();
  private readonly employer = this.store.selectSignal(selectEmployer);
  private readonly people = this.store.selectSignal(peopleStore.selectData);
  protected grid: GridApi<Row> | undefined;
  protected readonly from = signal('');
  protected readonly shown = signal<'all' | 'has' | 'has-not'>('all');
  protected readonly text = signal('');
  protected readonly same = signal('');
  protected readonly effect = signal<Effect | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  private readonly typed = signal<Readonly<Record<string, string>>>({});
  protected readonly choices = [
    { value: 'all' as const, label: 'Everyone' },
    { value: 'has' as const, label: 'Has it' },
    { value: 'has-not' as const, label: 'Has it not' },
  ];
  protected readonly asks = computed(() => asksFor(this.item()));
  protected readonly hint = computed(() =>
    this.asks() === 'nothing' ? 'Type yes to give it, a hyphen to end it.' : 'Type or paste amounts; a hyphen ends it.',
  );

  protected readonly rows = computed((): Row[] => {
    const from = this.from();
    const now = new Map(
      this.item()
        .holders.filter((holder) => holder.from <= from && (!holder.to || holder.to >= from))
        .map((holder) => [holder.personId, holder.percent ? `${holder.percent}%` : (holder.amount ?? 'has it')]),
    );
    return (this.people() ?? [])
      .filter((person) => !person.left || person.left >= from)
      .map((person) => ({
        personId: person.id,
        name: person.name,
        department: person.department,
        job: person.job,
        now: now.get(person.id) ?? null,
        typed: this.typed()[person.id] ?? '',
      }));
  });
  protected readonly entries = computed((): BodyOf<'changeHolders'>['entries'] =>
    this.rows()
      .filter((row) => row.typed !== '' && !(row.typed === END && row.now === null))
      .map((row) => ({
        personId: row.personId,
        end: row.typed === END,
        ...(row.typed === END || this.asks() === 'nothing' ? {} : { [this.asks()]: row.typed }),
      })),
  );
  protected readonly counted = computed(() => {
    const entries = this.entries();
    const has = new Set(this.rows().flatMap((row) => (row.now === null ? [] : [row.personId])));
    const ended = entries.filter((entry) => entry.end).length;
    const given = entries.filter((entry) => !entry.end && !has.has(entry.personId)).length;
    const words = [
      given && `${given} get it`,
      entries.length - ended - given && `${entries.length - ended - given} change`,
      ended && `${ended} end`,
    ];
    return words.filter(Boolean).join(', ');
  });
  protected readonly columns = computed((): ColDef<Row>[] => [
    { headerName: 'Person', field: 'name', flex: 2, minWidth: 160 },
    { headerName: 'Department', field: 'department', flex: 1.4 },
    { headerName: 'Job', field: 'job', flex: 1.4 },
    {
      headerName: 'Now',
      field: 'now',
      flex: 1,
      headerClass: 'figures',
      cellClass: 'figures muted',
      valueFormatter: ({ value }) =>
        value === null ? '–' : /^-?\d+(\.\d+)?$/.test(String(value)) ? writtenDecimal(String(value)) : String(value),
    },
    {
      headerName: this.from() ? 'From that day' : 'New',
      field: 'typed',
      flex: 1,
      editable: true,
      headerClass: 'figures',
      cellClass: ({ value }) => ['figures', 'entry-cell', value ? 'corner' : ''],
      valueFormatter: ({ value }) => (value === END ? 'ends' : String(value || '')),
    },
  ]);
  protected readonly rowId = ({ data }: { data: Row }): string => data.personId;
  protected readonly filtering = (): boolean => this.shown() !== 'all';
  protected readonly passes = ({ data }: { data?: Row }): boolean => (this.shown() === 'has') === (data?.now !== null);

  constructor() {
    effect(() => {
      const employer = this.employer();
      if (!employer) return;
      if (!this.from()) this.from.set(employer.today);
      this.store.dispatch(peopleStore.load({ input: {}, keep: true }));
    });
    effect(() => {
      this.shown();
      this.grid?.onFilterChanged();
    });
  }

  protected entered(event: CellEditRequestEvent<Row>): void {
    this.enter({ [event.data.personId]: String(event.newValue ?? '') });
  }

  protected fill(value: string): void {
    const all: Record<string, string> = {};
    this.grid?.forEachNodeAfterFilterAndSort((node) => {
      if (node.data && (value !== END || node.data.now !== null)) all[node.data.personId] = value;
    });
    this.enter(all);
  }

  /** A column copied from a spreadsheet is entered from the focused cell downwards. */
  @HostListener('paste', ['$event'])
  protected paste(event: ClipboardEvent): void {
    const pasted = pastedColumn(this.grid, event, 'typed', (row) => row.personId);
    if (pasted) this.enter(pasted);
  }

  protected preview(): void {
    this.problem.set(null);
    this.api
      .rehearse('changeHolders', this.change())
      .subscribe({ next: (effect) => this.effect.set(effect), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  protected save(): void {
    this.api
      .call('changeHolders', this.change())
      .subscribe({ next: () => this.saved.emit(), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  private enter(values: Record<string, string>): void {
    const read = Object.fromEntries(Object.entries(values).map(([id, text]) => [id, text.trim() === '–' ? END : typedNumber(text)]));
    this.typed.update((typed) => ({ ...typed, ...read }));
    this.effect.set(null);
  }

  private change() {
    return { path: { id: this.item().id }, body: { from: this.from(), entries: this.entries() } };
  }
}
