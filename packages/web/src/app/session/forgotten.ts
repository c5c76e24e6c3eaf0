import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';

/** Asks for a link by which a new password is chosen. */
@Component({
  selector: 'wr-forgotten',
  imports: [FormsModule, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="door">
      <div>
        <p class="serif name">Woodruff</p>
        <h1>New password</h1>
        @if (sent()) {
          <p class="notice" role="status">If {{ email }} is known here, a letter with a link is on its way. The link holds for an hour.</p>
        } @else {
          <form class="form narrow" (ngSubmit)="ask()">
            <label class="field">E-mail <input type="email" name="email" [(ngModel)]="email" autocomplete="username" /></label>
            <wr-problem [problem]="problem()" />
            <div><button class="main-action" type="submit" [disabled]="!email.includes('@')">Send a link</button></div>
          </form>
        }
        <p><a class="quiet" routerLink="/sign-in">Back to signing in</a></p>
      </div>
    </main>
  `,
  styleUrl: './door.scss',
})
export class Forgotten {
  private readonly api = inject(Api);
  protected email = '';
  protected readonly sent = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);

  protected ask(): void {
    this.problem.set(null);
    this.api.call('askReset', { body: { email: this.email } }).subscribe({
      next: () => this.sent.set(true),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
