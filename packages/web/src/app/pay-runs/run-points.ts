import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { OpenPoint, Sheet } from '@woodruff/contract';
import { workingActions } from '../working/working.store';
import { runActions } from './pay-runs.store';

/** Everything in the run that needs a person: mended at its cause, or accepted with a reason. */
@Component({
  selector: 'wr-run-points',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="lines">
      <thead>
        <tr>
          <th>Who</th>
          <th>What</th>
          <th></th>
        </tr>
      </thead>
      @for (point of sheet().points; track point.key) {
        <tr>
          <td class="who">
            @if (point.payslipId) {
              <button class="opens" type="button" (click)="open(point)">{{ point.who }}</button>
            } @else if (point.itemId) {
              <a [routerLink]="['/pay-items', point.itemId]">{{ point.who }}</a>
            } @else {
              This run
            }
            <div [class]="point.weight === 'stop' ? 'error' : 'muted'">{{ point.weight === 'stop' ? 'must be mended' : 'to look at' }}</div>
          </td>
          <td>
            {{ point.sentence }}
            @if (point.accepted; as accepted) {
              <div class="muted">Accepted by {{ accepted.by }}: {{ accepted.reason }}</div>
            }
            @if (accepting() === point.key) {
              <form class="accept" (submit)="accept(point); $event.preventDefault()">
                <label class="field">Reason <input [value]="reason()" (input)="reason.set($any($event.target).value)" /></label>
                <button class="main-action" type="submit" [disabled]="reason().trim().length < 3">Accept it</button>
                <button class="quiet" type="button" (click)="accepting.set('')">Close</button>
              </form>
            }
          </td>
          <td class="num">
            @if (point.key === 'stale') {
              <button class="quiet" type="button" (click)="recalculate.emit()">Work the run out again</button>
            }
            @if (editable() && point.weight === 'look' && !point.accepted && accepting() !== point.key) {
              <button class="quiet" type="button" (click)="accepting.set(point.key)">Accept with a reason</button>
            }
          </td>
        </tr>
      } @empty {
        <tr>
          <td class="muted" colspan="3">Nothing in this run needs a person.</td>
        </tr>
      }
    </table>
  `,
  styles: `
    .who {
      width: 190px;
    }
    .accept {
      display: flex;
      gap: 14px;
      align-items: end;
      margin-top: 8px;
    }
    .accept .field {
      width: 340px;
    }
  `,
})
export class RunPoints {
  private readonly store = inject(Store);
  readonly sheet = input.required<Sheet>();
  readonly editable = input(false);
  readonly recalculate = output<void>();
  protected readonly accepting = signal('');
  protected readonly reason = signal('');

  protected open(point: OpenPoint): void {
    if (!point.payslipId) return;
    this.store.dispatch(workingActions.open({ frame: { kind: 'payslip', payslipId: point.payslipId }, anew: true }));
  }

  protected accept(point: OpenPoint): void {
    this.store.dispatch(runActions.acceptPoint({ runId: this.sheet().run.id, key: point.key, reason: this.reason().trim() }));
    this.accepting.set('');
    this.reason.set('');
  }
}
