import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { quarterOf, yearOf } from '@woodruff/core';
import { selectEmployer } from '../session/session.store';
import { injectPack } from '../kit/pack';

/** The returns there are, by quarter, and the year's statements. */
@Component({
  selector: 'wr-returns-list',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Returns</h1>
        <span class="muted">made from the ledger, open to the payslips behind every line</span>
      </div>
      <section class="section">
        <h2>{{ pack()?.filings?.returnName }}</h2>
        <table class="lines">
          @for (quarter of quarters(); track quarter.label) {
            <tr>
              <td>
                <a [routerLink]="['/returns/quarterly', quarter.year, quarter.quarter]">{{ quarter.label }}</a>
              </td>
              <td class="muted">{{ quarter.state }}</td>
            </tr>
          }
        </table>
      </section>
      <section class="section">
        <h2>Year end</h2>
        <table class="lines">
          <tr>
            <td>
              <a [routerLink]="['/returns/year-end', year()]">Wage statements for {{ year() }}, {{ pack()?.filings?.statementName }}</a>
            </td>
            <td class="muted">with checks, and a draft print at any time</td>
          </tr>
        </table>
      </section>
    </main>
  `,
  styles: 'main { max-width: 900px; }',
})
export class ReturnsList {
  protected readonly pack = injectPack();
  private readonly today = inject(Store).selectSignal(selectEmployer);
  protected readonly year = computed(() => yearOf(this.today()?.today ?? '2026-01-01'));
  protected readonly quarters = computed(() => {
    const today = this.today()?.today ?? '2026-01-01';
    const now = quarterOf(today);
    return Array.from({ length: now }, (_unused, index) => now - index).map((quarter) => ({
      year: yearOf(today),
      quarter,
      label: `Quarter ${quarter} of ${yearOf(today)}`,
      state: quarter === now ? 'the quarter is running' : 'the quarter is complete',
    }));
  });
}
