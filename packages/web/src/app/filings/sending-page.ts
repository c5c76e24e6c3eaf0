import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { ProblemDetail } from '@woodruff/contract';
import { firstValueFrom } from 'rxjs';
import { RouterLink } from '@angular/router';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe } from '../kit/words';
import { sessionFeature } from '../session/session.store';

interface Waiting {
  employer: { id: string; name: string };
  filing: string;
  period: string;
  title: string;
  agency: string;
  due: string;
  /** Those of one number go as one file; empty for what goes for itself. */
  together: string;
  /** What became of it here; empty while it waits. */
  said: string;
  failed: boolean;
}

/** What was agreed to and waits to be sent, of all employers of the user: sent together, each for itself, or taken back before. */
@Component({
  selector: 'wr-sending-page',
  imports: [CountedPipe, DayPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>To send</h1>
        <span class="muted">agreed to, at {{ employers().length | counted: 'employer' : 'employers' }}</span>
        @if (chosen().length) {
          <button class="main-action" type="button" (click)="sendAll()" [disabled]="busy()">
            {{ busy() ? done() + ' of ' + asked() : 'Send ' + chosen().length + ' by file' }}
          </button>
        }
        <a class="quiet" [class.right]="!chosen().length" routerLink="/filings">Returns</a>
      </div>
      <wr-problem [problem]="problem()" />
      <table class="lines">
        @for (one of waiting(); track one.employer.id + one.filing + one.period) {
          <tr>
            <td class="pick">
              @if (!one.said) {
                <input
                  type="checkbox"
                  [checked]="picked().has(keyOf(one))"
                  (change)="pick(one)"
                  [disabled]="busy()"
                  [attr.aria-label]="one.title + ', ' + one.employer.name"
                />
              }
            </td>
            <td>{{ one.employer.name }}</td>
            <td>{{ one.title }}</td>
            <td class="muted">{{ one.agency }}</td>
            <td>due {{ one.due | day: 'short' }}</td>
            <td class="last" [class.error]="one.failed">
              {{ one.said }}
              @if (!one.said && !busy()) {
                <button
                  class="quiet"
                  type="button"
                  (click)="withdraw(one)"
                  [attr.aria-label]="'Take back ' + one.title + ', ' + one.employer.name"
                >
                  Take back
                </button>
              }
            </td>
          </tr>
        } @empty {
          <tr>
            <td class="muted">
              {{ looked() ? 'Nothing waits. What somebody has agreed to stands here until it is sent.' : 'Looking at every employer …' }}
            </td>
          </tr>
        }
      </table>
      @for (group of together(); track $index) {
        <p>{{ group }}</p>
      }
      <p class="muted">Each goes for itself: what one agency refuses keeps no other one waiting. A payment is not sent along from here.</p>
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    .pick {
      width: 30px;
    }
    .last {
      text-align: right;
    }
  `,
})
export class SendingPage {
  private readonly api = inject(Api);
  private readonly session = inject(Store).selectSignal(sessionFeature.selectSession);
  /** Where the user may send. */
  protected readonly employers = computed(() => this.session()?.employers.filter(({ rights }) => rights.includes('approve')) ?? []);
  protected readonly waiting = signal<Waiting[]>([]);
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  protected readonly chosen = computed(() => this.waiting().filter((one) => !one.said && this.picked().has(this.keyOf(one))));
  /** What goes as one file, in words. */
  protected readonly together = computed(() =>
    groupsOf(this.chosen())
      .filter((group) => group.length > 1)
      .map(
        (group) => `${group[0]?.title ?? ''}: ${group.map(({ employer }) => employer.name).join(', ')} have one number and go as one file.`,
      ),
  );
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly looked = signal(false);
  protected readonly busy = signal(false);
  protected readonly asked = signal(0);
  protected readonly done = signal(0);

  constructor() {
    effect(() => {
      if (this.employers().length) void this.look();
    });
  }

  protected keyOf({ employer, filing, period }: Waiting): string {
    return `${employer.id} ${filing} ${period}`;
  }

  protected pick(one: Waiting): void {
    const key = this.keyOf(one);
    this.picked.update((all) => new Set(all.has(key) ? [...all].filter((other) => other !== key) : [...all, key]));
  }

  /** One after another, so that each has its own answer. */
  protected async sendAll(): Promise<void> {
    const all = this.chosen();
    this.asked.set(all.length);
    this.done.set(0);
    this.busy.set(true);
    for (const [leader, ...others] of groupsOf(all)) {
      if (!leader) continue;
      // The file that the others go along with leaves when they are ready; one that is refused stays behind.
      for (const one of others) await this.send(one, `sent with ${leader.employer.name}`, leader.employer.id);
      await this.send(leader, 'sent');
    }
    this.busy.set(false);
  }

  private async send(one: Waiting, said: string, along?: string): Promise<void> {
    const body = { how: 'file' as const, ...(along ? { along } : {}) };
    await this.act(one, () => firstValueFrom(this.api.call('sendFiling', { ...this.at(one), body })), said);
    this.done.update((count) => count + 1);
  }

  protected async withdraw(one: Waiting): Promise<void> {
    const body = { reason: 'Taken back before it was sent' };
    await this.act(one, () => firstValueFrom(this.api.call('withdrawFiling', { ...this.at(one), body })), 'taken back');
  }

  private async act(one: Waiting, work: () => Promise<unknown>, said: string): Promise<void> {
    try {
      await work();
      this.say(one, said, false);
    } catch (error) {
      this.say(one, problemOf(error).detail, true);
    }
  }

  private say(one: Waiting, said: string, failed: boolean): void {
    this.waiting.update((all) => all.map((other) => (this.keyOf(other) === this.keyOf(one) ? { ...other, said, failed } : other)));
  }

  private at({ employer, filing, period }: Waiting) {
    return { path: { employer: employer.id, filing, period } };
  }

  private async look(): Promise<void> {
    const found: Waiting[] = [];
    try {
      for (const { id, name } of this.employers())
        for (const { filing, form, agency, together, periods } of await firstValueFrom(
          this.api.call('filings', { path: { employer: id } }),
        ))
          for (const { key, label, due, state } of periods)
            if (state === 'agreed')
              found.push({
                employer: { id, name },
                filing,
                period: key,
                title: `${form}, ${label}`,
                agency,
                due,
                together,
                said: '',
                failed: false,
              });
    } catch (error) {
      this.problem.set(problemOf(error));
    }
    this.waiting.set(found);
    this.picked.set(new Set(found.map((one) => this.keyOf(one))));
    this.looked.set(true);
  }
}

/** Filings that go as one file, each group by itself; alone what goes for itself. */
function groupsOf(all: readonly Waiting[]): Waiting[][] {
  const groups = new Map<string, Waiting[]>();
  for (const one of all) {
    const key = one.together ? `${one.together} ${one.filing} ${one.period}` : `${one.employer.id} ${one.filing} ${one.period}`;
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()];
}
