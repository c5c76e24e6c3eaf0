import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { LeavePage, LeaveRequest } from '@woodruff/contract';
import { writtenDay } from '@woodruff/core';
import { datesOf } from '../time/day-lines';

const DAYS = ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'];

interface Row {
  personId: string;
  name: string;
  /** By day: the first letter of the plan, whether it is only asked for, and the words of it. */
  days: Record<string, { mark: string; asked: boolean; words: string }>;
}

/** Who is away in a month, by department; under each department how many are away on a day. */
@Component({
  selector: 'wr-leave-calendar',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (departments().length) {
      <table>
        <thead>
          <tr>
            <th></th>
            @for (day of days(); track day.date) {
              <th [class.off]="day.off" [title]="day.label">{{ day.weekday }}<br />{{ day.day }}</th>
            }
          </tr>
        </thead>
        @for (department of departments(); track department.name) {
          <tbody>
            <tr class="department">
              <th scope="rowgroup">{{ department.name || 'No department' }}</th>
              @for (day of days(); track day.date) {
                <td [class.off]="day.off">{{ department.away[day.date] || '' }}</td>
              }
            </tr>
            @for (row of department.rows; track row.personId) {
              <tr>
                <th scope="row">
                  <a [routerLink]="['/people', row.personId]" fragment="leave">{{ row.name }}</a>
                </th>
                @for (day of days(); track day.date) {
                  <td [class.off]="day.off" [class.away]="row.days[day.date]" [class.asked]="row.days[day.date]?.asked">
                    @if (row.days[day.date]; as mark) {
                      <span [title]="mark.words" [attr.aria-label]="mark.words">{{ mark.mark }}</span>
                    }
                  </td>
                }
              </tr>
            }
          </tbody>
        }
      </table>
      <p class="muted key">
        {{ letters() }}. Framed: asked for, not decided. In a department's line: how many are away. Grey: weekends and holidays.
      </p>
    } @else {
      <p class="muted">Nobody is away this month.</p>
    }
  `,
  styles: `
    table {
      border-collapse: collapse;
      font-size: 13px;
    }
    th {
      font-weight: 400;
      text-align: left;
    }
    thead th {
      color: var(--ink2);
      text-align: center;
      font-size: 12px;
      line-height: 1.2;
      padding: 0 0 4px;
    }
    td {
      width: 29px;
      height: 26px;
      text-align: center;
      border: 1px solid var(--hair);
    }
    tbody th {
      width: 190px;
      padding-right: 10px;
      white-space: nowrap;
    }
    tbody tr:not(.department) th {
      padding-left: 14px;
    }
    .department th,
    .department td {
      font-weight: 600;
      border-top: 1px solid var(--rule);
    }
    .department td {
      color: var(--ink2);
    }
    td.off,
    thead th.off {
      background: var(--hair);
    }
    .away {
      background: var(--ochre-ground);
      font-weight: 600;
    }
    .away.asked {
      background: var(--sheet);
      box-shadow: inset 0 0 0 2px var(--ochre);
    }
    .key {
      font-size: 13px;
      margin: 6px 0 0;
    }
  `,
})
export class LeaveCalendar {
  readonly page = input.required<LeavePage>();
  protected readonly days = computed(() => {
    const { from, to, off } = this.page();
    const labels = new Map(off.map((day) => [day.date, day.label]));
    return datesOf(from, to).map((date) => ({
      date,
      day: Number(date.slice(8)),
      weekday: DAYS[new Date(`${date}T00:00:00Z`).getUTCDay()] ?? '',
      off: labels.has(date),
      label: labels.get(date) ?? '',
    }));
  });
  protected readonly departments = computed(() => {
    const { from, to, requests } = this.page();
    const byDepartment = new Map<string, { name: string; rows: Map<string, Row>; away: Record<string, number> }>();
    for (const request of requests) {
      const days = request.days.filter(({ date }) => date >= from && date <= to);
      if (!days.length) continue;
      const department = byDepartment.get(request.department) ?? { name: request.department, rows: new Map<string, Row>(), away: {} };
      byDepartment.set(request.department, department);
      const row = department.rows.get(request.personId) ?? { personId: request.personId, name: request.name, days: {} };
      department.rows.set(request.personId, row);
      for (const { date, hours } of days) {
        row.days[date] = { mark: request.plan.slice(0, 1), asked: request.state === 'asked', words: wordsOf(request, date, hours) };
        if (request.state === 'approved') department.away[date] = (department.away[date] ?? 0) + 1;
      }
    }
    return [...byDepartment.values()]
      .sort((a, b) => (a.name < b.name ? -1 : 1))
      .map((department) => ({ ...department, rows: [...department.rows.values()].sort((a, b) => (a.name < b.name ? -1 : 1)) }));
  });
  protected readonly letters = computed(() => {
    const byLetter = new Map<string, string[]>();
    for (const plan of new Set(this.page().requests.map((request) => request.plan)))
      byLetter.set(plan.slice(0, 1), [...(byLetter.get(plan.slice(0, 1)) ?? []), plan.toLowerCase()]);
    return [...byLetter].map(([letter, plans]) => `${letter}: ${plans.join(' or ')}`).join('; ');
  });
}

const wordsOf = (request: LeaveRequest, date: string, hours: string): string =>
  `${request.name}, ${writtenDay(date)}: ${request.plan}, ${hours} hours, ${request.state}`;
