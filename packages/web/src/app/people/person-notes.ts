import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { Person, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';

const SHOWN = 4;

/** Dated notes, which stay as written, and documents with the day on which they expire. */
@Component({
  selector: 'wr-person-notes',
  imports: [DayPipe, FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Notes and documents
      @if (mayPrepare() && !open()) {
        <button class="quiet" type="button" (click)="begin('note')">Add a note</button>
        <button class="quiet next" type="button" (click)="begin('document')">Add a document</button>
      }
    </h2>
    @if (open() === 'note') {
      <form class="panel-form" (ngSubmit)="saveNote()">
        <div class="form narrow">
          <label class="field">For the day <input type="date" name="date" [(ngModel)]="date" /></label>
          <label class="field">Note <textarea name="text" rows="3" [(ngModel)]="text"></textarea></label>
        </div>
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Keep this note</button>
          <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
        </div>
      </form>
    }
    @if (open() === 'document') {
      <form class="panel-form" (ngSubmit)="saveDocument()">
        <div class="form">
          <label class="field">Document <input name="document" [(ngModel)]="name" placeholder="work permit, licence …" /></label>
          <label class="field"
            >Expires on <input type="date" name="expires" [(ngModel)]="expires" /><small>Empty: without an end</small></label
          >
        </div>
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Put it on file</button>
          <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
        </div>
      </form>
    }
    @if (person().documents.length) {
      <table class="lines">
        @for (document of person().documents; track document.id) {
          <tr>
            <td>{{ document.name }}</td>
            <td>
              @if (document.expires) {
                <span [class.attention]="soon(document.expires)"
                  >{{ document.expires < today() ? 'expired' : 'expires' }} {{ document.expires | day }}</span
                >
              } @else {
                <span class="muted">without an end</span>
              }
            </td>
            <td class="num">
              @if (mayPrepare()) {
                <button class="quiet" type="button" (click)="change(document)" [attr.aria-label]="'Change ' + document.name">Change</button>
                <button class="quiet" type="button" (click)="remove(document.id)" [attr.aria-label]="'Remove ' + document.name">
                  Remove
                </button>
              }
            </td>
          </tr>
        }
      </table>
    }
    @for (note of notes(); track note.id) {
      <p class="note">
        {{ note.text }}<br /><span class="muted">{{ note.date | day }}, {{ note.who }}</span>
      </p>
    } @empty {
      @if (!person().documents.length) {
        <p class="muted">Nothing noted.</p>
      }
    }
    @if (person().notes.length > notes().length) {
      <button type="button" class="quiet" (click)="all.set(true)">All {{ person().notes.length }} notes</button>
    }
  `,
  styleUrl: './person-part.scss',
  styles: `
    h2 .next {
      margin-left: 0;
    }
    .note {
      margin: 10px 0 0;
      white-space: pre-line;
      max-width: 70ch;
    }
  `,
})
export class PersonNotes {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  protected readonly open = signal<'note' | 'document' | null>(null);
  protected readonly all = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly notes = computed(() => (this.all() ? this.person().notes : this.person().notes.slice(0, SHOWN)));
  protected date = '';
  protected text = '';
  protected name = '';
  protected expires = '';

  protected begin(what: 'note' | 'document'): void {
    this.problem.set(null);
    this.date = this.today();
    this.text = this.name = this.expires = '';
    this.open.set(what);
  }

  protected change(document: Person['documents'][number]): void {
    this.begin('document');
    this.name = document.name;
    this.expires = document.expires ?? '';
  }

  /** Expired, or within the weeks in which a new one has to be asked for. */
  protected soon(expires: string): boolean {
    return Date.parse(expires) - Date.parse(this.today()) < 45 * 86_400_000;
  }

  protected saveNote(): void {
    this.done(this.api.call('addNote', { path: { id: this.person().id }, body: { date: this.date, text: this.text } }));
  }

  protected saveDocument(): void {
    this.done(this.api.call('setDocument', { path: { id: this.person().id }, body: { name: this.name, expires: this.expires || null } }));
  }

  protected remove(id: string): void {
    this.done(this.api.call('removeDocument', { path: { id: this.person().id, document: id } }));
  }

  private done(request: Observable<unknown>): void {
    this.problem.set(null);
    request.subscribe({
      next: () => {
        this.open.set(null);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
