import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { OpenPoint, Sheet } from '@woodruff/contract';
import { workingActions } from '../working/working.store';
import { runActions } from './pay-runs.store';

/** Everything in the run that needs a person: fixed at its cause, or accepted with a reason. */
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
            <div [class]="point.weight === 'stop' ? 'error' : 'muted'">{{ point.weight === 'stop' ? 'must be fixed' : 'to look at' }}</div>
          </td>
          <td>
            {{ point.sentence }}
            @if (point.accepted; as accepted) {
              <div class="muted">Accepted by {{ accepted.by }}: {{ accepted.reason }}</div>
            }
            @if (accepting() === point.key) {
              <form class="accept" (submit)="accept(point); $event.preventDefault()">
                <label class="field">Reason <input [value]="reason()" (input)="reason.set($any($event.target).value)" /></label>
                @if (alike(point).length > 1) {
                  <label class="alike"
                    ><input type="checkbox" [checked]="withAlike()" (change)="withAlike.set(!withAlike())" /> all
                    {{ alike(point).length }} that say the same</label
                  >
                }
                <button class="main-action" type="submit" [disabled]="reason().trim().length < 3">
                  {{ withAlike() && alike(point).length > 1 ? 'Accept ' + alike(point).length : 'Accept it' }}
                </button>
                <button class="quiet" type="button" (click)="accepting.set('')">Close</button>
              </form>
            }
          </td>
          <td class="num">
            @if (point.key === 'stale') {
              <button class="quiet" type="button" (click)="recalculate.emit()">Recalculate the run</button>
            }
            @if (point.key.startsWith('time:')) {
              <a class="quiet" routerLink="/time" [queryParams]="period()">Time of the period</a>
            }
            @if (editable() && point.weight === 'look' && !point.accepted && accepting() !== point.key) {
              <button class="quiet" type="button" (click)="begin(point)">Accept with a reason</button>
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
    .quiet + .quiet {
      margin-left: 14px;
    }
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
      width: 300px;
    }
    .alike {
      font-size: 14px;
      padding-bottom: 6px;
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
  protected readonly withAlike = signal(true);

  /** Where the time of the run is kept. */
  protected readonly period = computed(() => ({ schedule: this.sheet().run.scheduleId, from: this.sheet().run.from }));

  protected open(point: OpenPoint): void {
    if (!point.payslipId) return;
    this.store.dispatch(workingActions.open({ frame: { kind: 'payslip', payslipId: point.payslipId }, anew: true }));
  }

  protected begin(point: OpenPoint): void {
    this.withAlike.set(true);
    this.accepting.set(point.key);
  }

  /** Points that say the same of somebody else, and are not accepted yet. */
  protected alike(point: OpenPoint): OpenPoint[] {
    return this.sheet().points.filter((other) => other.weight === 'look' && !other.accepted && other.sentence === point.sentence);
  }

  protected accept(point: OpenPoint): void {
    const points = this.withAlike() ? this.alike(point) : [point];
    this.store.dispatch(
      runActions.acceptPoints({ runId: this.sheet().run.id, keys: points.map(({ key }) => key), reason: this.reason().trim() }),
    );
    this.accepting.set('');
    this.reason.set('');
  }
}
