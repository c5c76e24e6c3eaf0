import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { OneOff, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { chosenFile, type ReadAs, type SentFile } from '../kit/chosen-file';
import { Problem } from '../kit/problem';
import { DayPipe, DecimalPipe } from '../kit/words';
import { peopleStore } from '../people/people.store';
import { readBlock } from '../pay-runs/entries';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { emptyLine, entriesOf, PASTED, takesOf, withBlock, withEmptyEnd, type EntryLine, daysOf } from './one-off-lines';
import { oneOffsStore } from './one-offs.store';

/** What is paid or taken once: entered, pasted or read from a file, and where each went. */
@Component({
  selector: 'wr-one-offs-page',
  imports: [DayPipe, DecimalPipe, FormsModule, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './one-offs-page.html',
  styleUrl: './one-offs-page.scss',
})
export class OneOffsPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly page = this.store.selectSignal(oneOffsStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(oneOffsStore.selectProblem);
  protected readonly people = this.store.selectSignal(peopleStore.selectData);
  protected readonly problem = signal<ProblemDetail | null>(null);
  private file: SentFile | null = null;
  protected readonly lines = signal<EntryLine[]>([emptyLine()]);
  protected readonly all = signal(false);
  protected readonly said = signal('');
  /** The waiting one-off that is being changed, as typed. */
  protected readonly changing = signal<{ id: string; line: EntryLine } | null>(null);
  protected readonly entries = computed(() => entriesOf(this.lines(), this.people() ?? [], this.page()?.items ?? []));
  protected readonly waiting = computed(() => this.page()?.oneOffs.filter((one) => one.state !== 'paid') ?? []);
  protected readonly shown = computed(() => (this.all() ? (this.page()?.oneOffs ?? []) : this.waiting()));
  private readonly faults = computed(() => new Set(this.problem()?.fields?.map((field) => field.path) ?? []));

  constructor() {
    effect(() => {
      if (!this.employer()) return;
      this.reload(this.all());
      this.store.dispatch(peopleStore.load({ input: {}, keep: true }));
    });
  }

  protected fault(at: number, column: string): boolean {
    return this.faults().has(`entries.${at}.${column}`);
  }

  protected type(at: number, column: keyof EntryLine, value: string): void {
    this.said.set('');
    this.lines.update((lines) => withEmptyEnd(lines.map((line, index) => (index === at ? { ...line, [column]: value } : line))));
  }

  protected drop(at: number): void {
    this.lines.update((lines) => withEmptyEnd(lines.filter((_line, index) => index !== at)));
  }

  /** A block of several cells is put in as such; one cell is pasted as usual. */
  protected paste(event: ClipboardEvent, at: number, column: (typeof PASTED)[number]): void {
    const block = readBlock(event.clipboardData?.getData('text') ?? '');
    if (block.length < 2 && (block[0]?.length ?? 0) < 2) return;
    event.preventDefault();
    this.lines.update((lines) => withBlock(lines, at, column, block));
  }

  protected async choose(chooser: HTMLInputElement): Promise<void> {
    this.file = (await chosenFile(chooser)) ?? this.file;
    this.readFile({});
  }

  protected readFile(readAs: ReadAs): void {
    if (!this.file) return;
    this.file = { ...this.file, ...readAs };
    this.problem.set(null);
    this.api.call('readOneOffs', { body: this.file }).subscribe({
      next: (rows) =>
        this.lines.update((lines) =>
          withEmptyEnd([
            ...lines.filter((line) => line.person || line.item || line.amount),
            ...rows.map(({ person, item, amount, note, date }) => ({
              ...emptyLine(),
              person,
              item,
              amount,
              note,
              ...(date ? { takes: 'date', date } : {}),
            })),
          ]),
        ),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected save(): void {
    this.problem.set(null);
    this.api.call('addOneOffs', { body: { entries: this.entries() } }).subscribe({
      next: ({ added }) => {
        this.lines.set([emptyLine()]);
        this.said.set(added === 1 ? 'One one-off saved.' : `${added} one-offs saved.`);
        this.reload(this.all());
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected change(one: OneOff): void {
    const takes = one.takes;
    this.changing.set({
      id: one.id,
      line: {
        person: one.person,
        item: one.itemName,
        amount: one.amount,
        note: one.note,
        takes: takes.by === 'run' ? takes.runId : takes.by,
        date: takes.by === 'date' ? takes.date : '',
        days: one.part ? 'part' : one.earned ? 'earned' : '',
        daysFrom: (one.part ?? one.earned)?.from ?? '',
        daysTo: (one.part ?? one.earned)?.to ?? '',
      },
    });
  }

  protected saveChange(): void {
    const changing = this.changing();
    if (!changing) return;
    const { line } = changing;
    this.done(
      this.api.call('changeOneOff', {
        path: { id: changing.id },
        body: {
          amount: line.amount,
          note: line.note,
          ...daysOf(line),
          takes: takesOf(line),
        },
      }),
    );
  }

  protected remove(one: OneOff): void {
    this.done(this.api.call('removeOneOff', { path: { id: one.id } }));
  }

  protected putBack(one: OneOff): void {
    this.done(this.api.call('putOneOffBack', { path: { id: one.id } }));
  }

  private done(request: ReturnType<typeof this.api.call<'removeOneOff'>>): void {
    this.problem.set(null);
    request.subscribe({
      next: () => {
        this.changing.set(null);
        this.reload(this.all());
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private reload(all: boolean): void {
    this.store.dispatch(oneOffsStore.load({ input: { query: all ? { all: 'yes' } : {} }, keep: true }));
  }
}
