import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Edits, PayslipView, ProblemDetail, Sheet, SheetRow } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { workingActions } from '../working/working.store';
import { runActions, type Entry } from './pay-runs.store';

type OneOff = NonNullable<Edits['oneOffs']>[number];

/** What is by hand on one payslip of an open run: each can be taken back. */
@Component({
  selector: 'wr-payslip-by-hand',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (oneOff of row().edits.oneOffs; track oneOff.id) {
      <p>
        {{ nameOf(oneOff.item) }} {{ oneOff.amount }}{{ oneOff.note ? ', ' + oneOff.note : '' }}
        <button class="quiet" type="button" (click)="toChange.emit(oneOff)" [attr.aria-label]="'Change ' + nameOf(oneOff.item)">
          change</button
        >&ngsp;
        <button class="quiet" type="button" (click)="removeOneOff(oneOff.id)" [attr.aria-label]="'Take ' + nameOf(oneOff.item) + ' off'">
          remove
        </button>
      </p>
    }
    @for (one of shown().taken; track one.id) {
      <p>
        {{ one.item }} {{ one.amount }}, from the one-offs{{ one.note ? ', ' + one.note : '' }}
        <button class="quiet" type="button" (click)="putBack(one.id)" [attr.aria-label]="'Put ' + one.item + ' back'">put back</button>
      </p>
    }
    @for (given of row().edits.amounts; track given.item) {
      <p>
        {{ labelOf(given.item) }} {{ given.amount }} this once{{ given.note ? ', ' + given.note : '' }}
        <button class="quiet" type="button" (click)="asSetUp(given.item)">as set up</button>
      </p>
    }
    @for (code of row().edits.leftOut; track code) {
      <p>Left out: {{ labelOf(code) }} <button class="quiet" type="button" (click)="takeBack(code)">include again</button></p>
    }
    @for (override of row().edits.overrides; track override.tax) {
      <p>
        {{ labelOf(override.tax) }} given as {{ override.amount }}: {{ override.reason }}
        <button class="quiet" type="button" (click)="removeOverride(override.tax)">recalculate it</button>
      </p>
    }
  `,
  styles: `
    button {
      margin-left: 6px;
    }
    p {
      margin: 4px 0;
      border-left: 3px solid var(--ochre);
      padding-left: 8px;
    }
  `,
})
export class PayslipByHand {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly sheet = input.required<Sheet>();
  readonly row = input.required<SheetRow>();
  readonly shown = input.required<PayslipView>();
  /** A one-off is to be changed. */
  readonly toChange = output<OneOff>();
  readonly refused = output<ProblemDetail>();

  protected removeOneOff(id: string): void {
    this.enter({ oneOffs: (this.row().edits.oneOffs ?? []).filter((oneOff) => oneOff.id !== id) });
  }

  protected takeBack(code: string): void {
    this.enter({ leftOut: (this.row().edits.leftOut ?? []).filter((other) => other !== code) });
  }

  protected asSetUp(item: string): void {
    this.enter({ amounts: (this.row().edits.amounts ?? []).filter((given) => given.item !== item) });
  }

  protected removeOverride(tax: string): void {
    this.enter({ overrides: (this.row().edits.overrides ?? []).filter((override) => override.tax !== tax) });
  }

  /** It waits for the next run. */
  protected putBack(id: string): void {
    const runId = this.sheet().run.id;
    this.api.call('putOneOffBack', { path: { id } }).subscribe({
      next: () => {
        this.store.dispatch(runActions.reload({ runId }));
        this.store.dispatch(workingActions.refresh({ payslipId: this.shown().id }));
      },
      error: (error: unknown) => this.refused.emit(problemOf(error)),
    });
  }

  protected nameOf(code: string): string {
    return this.sheet().oneOffItems.find((item) => item.code === code)?.name ?? code;
  }

  /** As on the payslip; what is left out stands among what is not on it. */
  protected labelOf(code: string): string {
    const { lines, notDue } = this.shown();
    return [...lines, ...(notDue ?? [])].find((line) => line.code === code)?.label ?? code;
  }

  private enter(entry: Entry): void {
    this.store.dispatch(runActions.enter({ payslipId: this.shown().id, entry }));
  }
}
