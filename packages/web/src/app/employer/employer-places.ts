import { ChangeDetectionStrategy, Component, effect, inject, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Problem } from '../kit/problem';
import { SetUpEdit } from './set-up-edit';

type Place = 'departments' | 'worksites' | 'jobs';

/** A line of a list being changed: what it was called, so that people follow a new name. */
interface Line {
  was: string;
  name: string;
  state: string;
}

const PLACES: { key: Place; label: string; one: string }[] = [
  { key: 'departments', label: 'Departments', one: 'department' },
  { key: 'worksites', label: 'Worksites', one: 'worksite' },
  { key: 'jobs', label: 'Jobs', one: 'job' },
];

/** Departments, worksites and jobs; people follow a new name. */
@Component({
  selector: 'wr-employer-places',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Places and jobs
      @if (page.mayChange() && page.editing() !== 'places') {
        <button class="quiet" type="button" (click)="page.edit('places')" aria-label="Change: Places and jobs">Change</button>
      }
    </h2>
    @if (page.editing() === 'places') {
      <form class="panel-form" (ngSubmit)="save()">
        <p class="muted">People follow a new name. An emptied line goes, unless people are in it.</p>
        <div class="columns">
          @for (place of places; track place.key) {
            <div>
              <h3>{{ place.label }}</h3>
              @for (line of lists[place.key]; track $index) {
                <div [class.site]="place.key === 'worksites'">
                  <input
                    class="entry"
                    [name]="place.key + $index"
                    [(ngModel)]="line.name"
                    [attr.aria-label]="place.one + ' ' + ($index + 1)"
                  />
                  @if (place.key === 'worksites') {
                    <input
                      class="entry"
                      [name]="'state' + $index"
                      maxlength="3"
                      placeholder="State"
                      [(ngModel)]="line.state"
                      [attr.aria-label]="'state of worksite ' + ($index + 1)"
                    />
                  }
                </div>
              }
              <button type="button" class="quiet" (click)="addLine(place.key)">Another {{ place.one }}</button>
            </div>
          }
        </div>
        <wr-problem [problem]="page.problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Save places and jobs</button>
          <button class="quiet" type="button" (click)="page.stop()">Cancel</button>
        </div>
      </form>
    } @else {
      <dl class="pair">
        <dt>Departments</dt>
        <dd>{{ setUp().facts.departments.join(', ') || 'none' }}</dd>
        <dt>Worksites</dt>
        <dd>
          @for (site of setUp().facts.worksites; track site.name) {
            <div>{{ site.name }}{{ site.state ? ', ' + site.state : '' }}</div>
          } @empty {
            none
          }
        </dd>
        <dt>Jobs</dt>
        <dd>{{ setUp().facts.jobs.join(', ') || 'none' }}</dd>
      </dl>
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerPlaces {
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  protected readonly places = PLACES;
  protected lists: Record<Place, Line[]> = { departments: [], worksites: [], jobs: [] };

  constructor() {
    effect(() => {
      if (this.page.editing() !== 'places') return;
      const { departments, jobs, worksites } = untracked(this.setUp).facts;
      const lines = (entries: { name: string; state: string }[]): Line[] =>
        [...entries, { name: '', state: '' }].map(({ name, state }) => ({ was: name, name, state }));
      const named = (names: string[]) => lines(names.map((name) => ({ name, state: '' })));
      this.lists = { departments: named(departments), jobs: named(jobs), worksites: lines(worksites) };
    });
  }

  protected addLine(place: Place): void {
    this.lists[place] = [...this.lists[place], { was: '', name: '', state: '' }];
  }

  protected save(): void {
    const known = new Map(this.setUp().facts.worksites.map((site) => [site.name, site]));
    const entered = (place: Place) =>
      this.lists[place].filter((line) => line.name.trim()).map((line) => ({ ...line, name: line.name.trim() }));
    const renamed = (place: Place) =>
      Object.fromEntries(entered(place).flatMap(({ was, name }) => (was && was !== name ? [[was, name]] : [])));
    this.page.save({
      facts: {
        departments: entered('departments').map(({ name }) => name),
        jobs: entered('jobs').map(({ name }) => name),
        worksites: entered('worksites').map(({ was, name, state }) => ({ city: '', postcode: '', ...known.get(was), name, state })),
      },
      renamed: { departments: renamed('departments'), worksites: renamed('worksites'), jobs: renamed('jobs') },
    });
  }
}
