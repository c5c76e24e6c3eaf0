import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { ProblemDetail, TokenView } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';

/** Where a link of a letter leads: an invitation is accepted, or a new password chosen. */
@Component({
  selector: 'wr-link',
  imports: [FormsModule, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="door">
      <div>
        <p class="serif name">Woodruff</p>
        <h1>{{ title() }}</h1>
        @if (done()) {
          <p class="notice" role="status">
            Done. Sign in with {{ view()?.email }}{{ view()?.choosesPassword ? ' and your new password' : '' }}.
          </p>
          <a class="main-action" routerLink="/sign-in">Sign in</a>
        } @else {
          @if (view(); as view) {
            <p class="muted">{{ view.name }}, {{ view.email }}</p>
            <form class="form narrow" (ngSubmit)="use()">
              @if (view.choosesPassword) {
                <label class="field"
                  >Choose a password
                  <input type="password" name="password" [(ngModel)]="password" autocomplete="new-password" />
                </label>
                <p class="muted hint">At least ten characters. Four or five words that do not belong together are easy to keep.</p>
              } @else {
                <p class="muted hint">You keep the password you have.</p>
              }
              <wr-problem [problem]="problem()" />
              <div>
                <button class="main-action" type="submit" [disabled]="view.choosesPassword && password.length < 10">
                  {{ view.kind === 'reset' ? 'Set the password' : 'Accept the invitation' }}
                </button>
              </div>
            </form>
          } @else {
            <wr-problem [problem]="problem()" />
            <p><a class="quiet" routerLink="/forgotten">Ask for a new link</a></p>
          }
        }
      </div>
    </main>
  `,
  styleUrl: './door.scss',
})
export class LinkPage {
  readonly token = input.required<string>();
  private readonly api = inject(Api);
  protected password = '';
  protected readonly view = signal<TokenView | null>(null);
  protected readonly done = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly title = computed(() => {
    const view = this.view();
    return !view ? 'Your link' : view.kind === 'reset' ? 'New password' : `${view.employer ?? ''} invites you`;
  });

  constructor() {
    effect(() =>
      this.api.call('lookAtLink', { body: { token: this.token() } }).subscribe({
        next: (view) => this.view.set(view),
        error: (error: unknown) => this.problem.set(problemOf(error)),
      }),
    );
  }

  protected use(): void {
    this.problem.set(null);
    const body = { token: this.token(), ...(this.view()?.choosesPassword ? { password: this.password } : {}) };
    this.api.call('useLink', { body }).subscribe({
      next: () => this.done.set(true),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
