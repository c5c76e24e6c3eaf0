import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal, viewChild } from '@angular/core';
import { toSignal, toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink, RouterLinkActive } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap';
import { Store } from '@ngrx/store';
import { catchError, debounceTime, of, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { Keys } from '../kit/keys';
import { DayPipe } from '../kit/words';
import { sessionActions, sessionFeature, selectEmployer } from '../session/session.store';

/** Name and employer, sections, find, business date, user. */
@Component({
  selector: 'wr-bar',
  imports: [DayPipe, NgbDropdownModule, RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="bar">
      <a class="name serif" routerLink="/today">Woodruff</a>
      <div ngbDropdown class="employer" (openChange)="$event && lookWhatIsPlayed()">
        <button class="plain" type="button" ngbDropdownToggle [attr.aria-label]="'Employer: ' + employer()?.name">
          {{ employer()?.name }}
        </button>
        <div ngbDropdownMenu>
          @for (other of session()?.employers; track other.id) {
            <button ngbDropdownItem type="button" [disabled]="other.beingPlayed" (click)="choose(other.id)">
              {{ other.name }}
              @if (other.beingPlayed) {
                <span class="muted">still being played, now at {{ other.today | day }}</span>
              }
            </button>
          }
          <div class="dropdown-divider"></div>
          <a ngbDropdownItem routerLink="/employer">Set-up of this employer</a>
          <a ngbDropdownItem routerLink="/employers/new">Begin a new employer …</a>
        </div>
      </div>
      <nav aria-label="Sections">
        @for (section of sections; track section.path) {
          <a [routerLink]="section.path" routerLinkActive="on" ariaCurrentWhenActive="page">{{ section.label }}</a>
        }
      </nav>
      <div class="find">
        <input
          #find
          type="search"
          placeholder="Find"
          aria-label="Find people, pay items and runs"
          [value]="text()"
          (input)="text.set(find.value); chosen.set(0)"
          (keydown)="findKey($event)"
          (blur)="leave()"
        />
        <kbd aria-hidden="true">/</kbd>
        @if (text().trim() && found(); as found) {
          <div class="found" role="listbox" aria-label="Found">
            @for (entry of found; track entry.link; let index = $index) {
              <button
                type="button"
                role="option"
                [attr.aria-selected]="index === chosen()"
                [class.on]="index === chosen()"
                (mousedown)="go(entry.link)"
              >
                {{ entry.label }} <span class="muted">{{ entry.detail }}</span>
              </button>
            } @empty {
              <p class="muted">Nothing has “{{ text() }}” in its name or code.</p>
            }
          </div>
        }
      </div>
      @if (employer(); as employer) {
        <div ngbDropdown placement="bottom-end" #dateMenu="ngbDropdown" class="date">
          <button class="plain" type="button" ngbDropdownToggle aria-label="Business date">{{ employer.today | day }}</button>
          <div ngbDropdownMenu class="move">
            @if (employer.demo) {
              <label class="field"
                >Move the demo's business date to
                <input #date type="date" [min]="employer.today" [value]="employer.today" />
              </label>
              <p class="muted">It only moves forward.</p>
              <button class="main-action" type="button" (click)="moveTo(date.value); dateMenu.close()">Move the date</button>
            } @else {
              <p class="muted">Today's business date.</p>
            }
          </div>
        </div>
      }
      <div ngbDropdown placement="bottom-end">
        <button class="plain" type="button" ngbDropdownToggle aria-label="User menu">{{ initials() }}</button>
        <div ngbDropdownMenu>
          <p class="who">
            {{ session()?.user?.name }}<br /><span class="muted">{{ employer()?.role }}</span>
          </p>
          <a ngbDropdownItem routerLink="/account">Your account</a>
          <a ngbDropdownItem routerLink="/outbox">Outbox of the mail stand-in</a>
          <a ngbDropdownItem href="/api-docs" target="_blank">Interface description</a>
          <button ngbDropdownItem type="button" (click)="signOut()">Sign out</button>
        </div>
      </div>
    </header>
  `,
  styles: `
    .bar {
      height: 44px;
      display: flex;
      align-items: center;
      gap: 22px;
      padding: 0 20px;
      border-bottom: 1px solid var(--rule);
      background: var(--paper);
    }
    .name {
      font-size: 20px;
      text-decoration: none;
    }
    .employer {
      border-left: 1px solid var(--rule);
      padding-left: 14px;
      margin-left: -8px;
      max-width: 220px;
    }
    .plain {
      background: none;
      border: 0;
      padding: 0;
      font: inherit;
      color: var(--ink2);
      white-space: nowrap;
    }
    .plain:hover {
      color: var(--ink);
    }
    nav {
      display: flex;
      gap: 20px;
      align-self: stretch;
    }
    nav a {
      color: var(--ink2);
      text-decoration: none;
      padding: 11px 0;
      white-space: nowrap;
    }
    nav a.on {
      color: var(--ink);
      font-weight: 600;
      box-shadow: inset 0 -2px var(--ochre);
    }
    .find {
      margin-left: auto;
      position: relative;
      border-bottom: 1px solid var(--ink2);
      display: flex;
      align-items: center;
      width: 180px;
    }
    .find input {
      border: 0;
      background: none;
      width: 100%;
      font: inherit;
      font-size: 14px;
      padding: 2px;
    }
    .find input::placeholder {
      color: var(--ink2);
    }
    kbd {
      background: none;
      color: var(--ink2);
      padding: 0 2px;
      font: inherit;
    }
    .found {
      position: absolute;
      top: 32px;
      right: 0;
      width: 360px;
      background: var(--sheet);
      border: 1px solid var(--rule);
      border-radius: 3px;
      box-shadow: 0 6px 18px rgb(30 39 48 / 12%);
      z-index: 30;
      font-size: 14px;
    }
    .found button {
      display: block;
      width: 100%;
      text-align: left;
      border: 0;
      background: none;
      padding: 6px 12px;
      font: inherit;
    }
    .found button.on,
    .found button:hover {
      background: var(--ochre-ground);
    }
    .found p,
    .who {
      padding: 8px 14px;
      margin: 0;
    }
    .move {
      padding: 12px 14px;
      width: 250px;
    }
  `,
})
export class Bar {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly keys = inject(Keys);
  private readonly findBox = viewChild.required<ElementRef<HTMLInputElement>>('find');
  protected readonly session = this.store.selectSignal(sessionFeature.selectSession);
  protected readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly initials = computed(() =>
    (this.session()?.user.name ?? '')
      .split(' ')
      .map((part) => part[0])
      .join(''),
  );
  protected readonly sections = [
    { path: '/today', label: 'Today', key: 't' },
    { path: '/people', label: 'People', key: 'p' },
    { path: '/pay-items', label: 'Pay items', key: 'i' },
    { path: '/time', label: 'Time', key: 'h' },
    { path: '/pay-runs', label: 'Pay runs', key: 'r' },
    { path: '/payments', label: 'Payments', key: 'm' },
    { path: '/filings', label: 'Returns', key: 'f' },
  ];
  protected readonly text = signal('');
  protected readonly chosen = signal(0);
  protected readonly found = toSignal(
    toObservable(this.text).pipe(
      debounceTime(80),
      switchMap((text) => (text.trim() ? this.api.call('find', { query: { text } }).pipe(catchError(() => of(null))) : of(null))),
    ),
    { initialValue: null },
  );

  constructor() {
    this.keys.add(
      { keys: '/', label: 'Find', run: () => this.findBox().nativeElement.focus() },
      ...this.sections.map((section) => ({
        keys: `g ${section.key}`,
        label: `Go to ${section.label}`,
        run: () => void this.router.navigateByUrl(section.path),
      })),
    );
  }

  protected findKey(event: KeyboardEvent): void {
    const found = this.found() ?? [];
    if (event.key === 'ArrowDown') this.chosen.update((index) => Math.min(index + 1, found.length - 1));
    else if (event.key === 'ArrowUp') this.chosen.update((index) => Math.max(index - 1, 0));
    else if (event.key === 'Enter' && found[this.chosen()]) this.go(found[this.chosen()]!.link);
    else if (event.key === 'Escape') this.leave();
    else return;
    event.preventDefault();
  }

  protected go(link: string): void {
    this.leave();
    void this.router.navigateByUrl(link);
  }

  protected leave(): void {
    this.text.set('');
    this.findBox().nativeElement.blur();
  }

  /** What the demo was still playing may have opened. */
  protected lookWhatIsPlayed(): void {
    if (!this.session()?.employers.some(({ beingPlayed }) => beingPlayed)) return;
    this.api
      .call('session')
      .subscribe({ next: (session) => this.store.dispatch(sessionActions.restored({ session })), error: () => undefined });
  }

  protected choose(id: string): void {
    this.store.dispatch(sessionActions.chooseEmployer({ id }));
    void this.router.navigateByUrl('/today');
  }

  protected moveTo(date: string): void {
    this.api.call('moveToday', { body: { date } }).subscribe({
      next: ({ today }) => {
        this.store.dispatch(sessionActions.todayMoved({ today }));
        void this.router.navigateByUrl('/today');
      },
      error: () => undefined,
    });
  }

  protected signOut(): void {
    this.store.dispatch(sessionActions.signOut());
  }
}
