import { ChangeDetectionStrategy, Component, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { BodyOf, Role, SetUp } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { SetUpEdit } from './set-up-edit';

const ROLES: { value: Role; label: string }[] = [
  { value: 'administrator', label: 'Administrator: everything, set-up too' },
  { value: 'clerk', label: 'Clerk: prepares and approves' },
  { value: 'approver', label: 'Approver: looks and approves' },
  { value: 'viewer', label: 'Viewer: reads and exports' },
];

/** Who works here, and what each may do. */
@Component({
  selector: 'wr-employer-members',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Who works here
      @if (page.mayChange() && page.editing() !== 'people-here') {
        <button class="quiet" type="button" (click)="page.edit('people-here')">Let somebody work here</button>
      }
    </h2>
    @if (password(); as told) {
      <p class="notice" role="status">
        @if (told.password) {
          {{ told.name }} signs in with this first password, shown only now: <strong>{{ told.password }}</strong>
        } @else {
          {{ told.name }} was known already and signs in as before.
        }
      </p>
    }
    @if (page.editing() === 'people-here') {
      <form class="panel-form" (ngSubmit)="add()">
        <div class="form">
          <label class="field">E-mail <input name="memberEmail" [(ngModel)]="member.email" /></label>
          <label class="field">Name <input name="memberName" [(ngModel)]="member.name" /></label>
          <label class="field"
            >May
            <select name="memberRole" [(ngModel)]="member.role">
              @for (role of roles; track role.value) {
                <option [value]="role.value">{{ role.label }}</option>
              }
            </select>
          </label>
        </div>
        <wr-problem [problem]="page.problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Let them work here</button>
          <button class="quiet" type="button" (click)="page.stop()">Leave as it was</button>
        </div>
      </form>
    } @else if (!page.editing()) {
      <wr-problem [problem]="page.problem()" />
    }
    <table class="lines">
      @for (member of setUp().members; track member.id) {
        <tr>
          <td>{{ member.name }}</td>
          <td class="muted">{{ member.email }}</td>
          <td class="num">
            @if (page.mayChange()) {
              <select
                [value]="member.role"
                (change)="setRole(member, $any($event.target).value)"
                [attr.aria-label]="'What ' + member.name + ' may do'"
              >
                @for (role of roles; track role.value) {
                  <option [value]="role.value" [selected]="member.role === role.value">{{ role.value }}</option>
                }
                <option value="">no longer here</option>
              </select>
            } @else {
              {{ member.role }}
            }
          </td>
        </tr>
      }
    </table>
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerMembers {
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  private readonly api = inject(Api);
  protected readonly roles = ROLES;
  /** The first password of somebody new, told once. */
  protected readonly password = signal<{ name: string; password: string | null } | null>(null);
  protected member: BodyOf<'addMember'> = { email: '', name: '', role: 'clerk' };

  constructor() {
    effect(() => {
      const editing = this.page.editing();
      if (editing) this.password.set(null);
      if (editing === 'people-here') this.member = { email: '', name: '', role: 'clerk' };
    });
  }

  protected add(): void {
    const { name } = this.member;
    this.page.run(this.api.call('addMember', { body: this.member }), ({ password }) => this.password.set({ name, password }));
  }

  protected setRole(member: SetUp['members'][number], role: string): void {
    this.page.run(this.api.call('changeMember', { path: { id: member.id }, body: { role: (role || null) as Role | null } }));
  }
}
