import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { Keys } from '../kit/keys';
import { sessionFeature } from '../session/session.store';
import { SignInForm } from '../session/sign-in';
import { Bar } from './bar';
import { Dateline } from './dateline';

/** The frame of every page: bar, dateline, the page, and what opens over it. */
@Component({
  selector: 'wr-shell',
  imports: [Bar, Dateline, RouterOutlet, SignInForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="shell">
      <wr-bar />
      <wr-dateline />
      <div class="content"><router-outlet /></div>
    </div>
    @if (expired()) {
      <div class="over" role="dialog" aria-modal="true" aria-label="Sign in again">
        <div>
          <h2>Your session has ended</h2>
          <p>Sign in again to go on here. What you typed is kept and is saved as soon as you are back.</p>
          <wr-sign-in-form />
        </div>
      </div>
    }
    @if (keysShown()) {
      <div class="over" role="dialog" aria-modal="true" aria-label="Keys of this page">
        <div>
          <h2>Keys of this page</h2>
          <table class="lines">
            @for (key of keys.list(); track key.keys + key.label) {
              <tr>
                <td>
                  <kbd>{{ key.keys }}</kbd>
                </td>
                <td>{{ key.label }}</td>
              </tr>
            }
          </table>
          <div class="form-actions"><button class="quiet" type="button" (click)="keysShown.set(false)">Close</button></div>
        </div>
      </div>
    }
  `,
  styles: `
    .shell {
      display: grid;
      grid-template-rows: auto auto minmax(0, 1fr);
      height: 100vh;
    }
    /* Whatever is placed within a page is placed within it, and cannot widen the window. */
    .content {
      position: relative;
      min-height: 0;
      overflow: auto;
    }
    .over {
      position: fixed;
      inset: 0;
      background: rgb(30 39 48 / 35%);
      display: grid;
      place-items: center;
      z-index: 1000;
    }
    .over > div {
      background: var(--paper);
      border-radius: 3px;
      padding: 24px 28px;
      width: 440px;
      max-height: 86vh;
      overflow: auto;
    }
    kbd {
      background: var(--sheet);
      border: 1px solid var(--rule);
      color: var(--ink);
      font: inherit;
      font-size: 13px;
      padding: 0 6px;
      border-radius: 3px;
    }
  `,
})
export class Shell {
  protected readonly keys = inject(Keys);
  protected readonly expired = inject(Store).selectSignal(sessionFeature.selectExpired);
  protected readonly keysShown = signal(false);

  constructor() {
    this.keys.add({ keys: 'F1', label: 'The keys of this page', run: () => this.keysShown.update((shown) => !shown) });
  }
}
