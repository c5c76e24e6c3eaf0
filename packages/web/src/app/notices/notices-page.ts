import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Effect, NoticesRead, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { chosenFile } from '../kit/chosen-file';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { GeneralChange } from './general-change';
import { noticesStore } from './notices.store';

/** What the tax agency says of people's details: fetched or from a file, looked at, and used from the day that each says. */
@Component({
  selector: 'wr-notices-page',
  imports: [CountedPipe, DayPipe, EffectOnRuns, FormsModule, GeneralChange, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>{{ page()?.rules?.title ?? 'Notices' }}</h1>
        <a class="quiet" routerLink="/people">People</a>
      </div>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (page(); as page) {
        @if (page.rules; as rules) {
          @if (mayPrepare()) {
            <section class="section first">
              <h2>New notices</h2>
              <p class="row-of">
                <button class="quiet" type="button" (click)="fetch()">Fetch from the agency</button>
                <label class="file"
                  ><input
                    type="file"
                    class="visually-hidden"
                    accept=".xml,text/xml"
                    aria-label="File of notices"
                    (change)="choose($any($event.target))"
                  /><span class="quiet">or choose a file …</span></label
                >
                <span class="muted">{{ rules.format }}</span>
              </p>
              @if (read(); as read) {
                @for (fault of read.faults; track fault) {
                  <p class="error">{{ fault }}</p>
                }
                @if (read.rows.length) {
                  <table class="lines">
                    <tr>
                      <th></th>
                      <th>Person</th>
                      <th>Notice</th>
                      <th>Issued</th>
                      <th>Holds from</th>
                      <th></th>
                    </tr>
                    @for (row of read.rows; track $index) {
                      <tr [class.muted]="row.used">
                        <td>
                          @if (!row.used && !row.problem) {
                            <input
                              type="checkbox"
                              [attr.aria-label]="'Use: ' + row.name + ', ' + row.label"
                              [checked]="chosen().has($index)"
                              (change)="toggle($index)"
                            />
                          }
                        </td>
                        <td>
                          @if (row.personId; as id) {
                            <a [routerLink]="['/people', id]">{{ row.name }}</a>
                          } @else {
                            {{ row.name }}
                          }
                        </td>
                        <td>{{ row.label }}</td>
                        <td class="when">{{ row.issued | day }}</td>
                        <td class="when">{{ row.from | day }}</td>
                        <td [class.attention]="row.problem">{{ row.used ? 'used before' : (row.problem ?? '') }}</td>
                      </tr>
                    }
                  </table>
                  @if (effect(); as effect) {
                    <wr-effect [effect]="effect" />
                  }
                  <div class="form-actions">
                    @if (chosen().size) {
                      <button class="main-action" type="button" (click)="effect() ? use() : look()">
                        @if (effect()) {
                          Use {{ chosen().size | counted: 'notice' : 'notices' }}
                        } @else {
                          Show what it changes
                        }
                      </button>
                    } @else {
                      <p class="muted">Nothing new is in it.</p>
                    }
                  </div>
                } @else if (!read.faults.length) {
                  <p class="muted">The agency has nothing for this employer.</p>
                }
              }
            </section>
            <section class="section">
              <h2>{{ rules.general.title }}</h2>
              <wr-general-change [rules]="rules.general" [today]="today()" (saved)="reload()" />
            </section>
          }
          <section class="section">
            <h2>Used before</h2>
            <table class="lines">
              @for (one of page.used; track $index) {
                <tr>
                  <td>
                    <a [routerLink]="['/people', one.personId]">{{ one.name }}</a>
                  </td>
                  <td>{{ one.label }}</td>
                  <td class="when">of {{ one.issued | day }}</td>
                  <td class="when">from {{ one.from | day }}</td>
                  <td class="muted">{{ one.by }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">No notice was used yet.</td>
                </tr>
              }
            </table>
          </section>
        } @else {
          <p class="notice">In this employer’s country the tax agency gives no notices that are read here.</p>
        }
      } @else if (!loadProblem()) {
        <p class="muted">Fetching the notices …</p>
      }
    </main>
  `,
  styles: `
    .first {
      margin-top: 8px;
    }
    .file {
      position: relative;
      cursor: pointer;
    }
  `,
})
export class NoticesPageView {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.session()?.today ?? '');
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly page = this.store.selectSignal(noticesStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(noticesStore.selectProblem);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly read = signal<NoticesRead | null>(null);
  protected readonly effect = signal<Effect | null>(null);
  protected readonly chosen = signal<ReadonlySet<number>>(new Set());
  private content = '';

  constructor() {
    effect(() => {
      if (this.session()) this.reload();
    });
  }

  protected fetch(): void {
    this.api.call('fetchNotices').subscribe({ next: ({ content }) => this.check(content), error: this.failed });
  }

  protected async choose(chooser: HTMLInputElement): Promise<void> {
    const file = await chosenFile(chooser);
    if (file) this.check(new TextDecoder().decode(Uint8Array.from(atob(file.content), (letter) => letter.charCodeAt(0))));
  }

  /** Everything that can be used is chosen; what is against the others stands beside them. */
  private check(content: string): void {
    this.content = content;
    this.problem.set(null);
    this.effect.set(null);
    this.api.call('checkNotices', { body: { content } }).subscribe({
      next: (read) => {
        this.read.set(read);
        this.chosen.set(new Set(read.rows.flatMap(({ problem, used }, index) => (problem || used ? [] : [index]))));
      },
      error: this.failed,
    });
  }

  protected toggle(index: number): void {
    this.effect.set(null);
    const chosen = new Set(this.chosen());
    if (!chosen.delete(index)) chosen.add(index);
    this.chosen.set(chosen);
  }

  protected look(): void {
    this.problem.set(null);
    this.api.rehearse('applyNotices', { body: this.body }).subscribe({ next: (effect) => this.effect.set(effect), error: this.failed });
  }

  protected use(): void {
    this.problem.set(null);
    this.api.call('applyNotices', { body: this.body }).subscribe({
      next: () => {
        this.check(this.content);
        this.reload();
      },
      error: this.failed,
    });
  }

  protected reload(): void {
    this.store.dispatch(noticesStore.load({ input: {}, keep: true }));
  }

  private get body() {
    return { content: this.content, chosen: [...this.chosen()] };
  }

  private readonly failed = (error: unknown): void => this.problem.set(problemOf(error));
}
