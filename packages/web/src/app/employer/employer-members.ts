import { ChangeDetectionStrategy, Component, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RIGHTS, RIGHTS_OF, type BodyOf, type Right, type Role, type SetUp } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { SetUpEdit } from './set-up-edit';

type Member = SetUp['members'][number];

const ROLES: { value: Role; label: string }[] = [
  { value: 'administrator', label: 'Administrator: everything, set-up too' },
  { value: 'clerk', label: 'Clerk: prepares and approves' },
  { value: 'approver', label: 'Approver: looks and approves' },
  { value: 'viewer', label: 'Viewer: reads and exports' },
];
const RIGHTS_IN_WORDS: Record<Right, string> = {
  read: 'read',
  export: 'export',
  prepare: 'prepare pay',
  approve: 'approve and reverse',
  'pay-out': 'pay out',
  bank: 'change bank details',
  reveal: 'see protected numbers',
  administer: 'change settings',
};

/** The users of the employer, and what each may do. */
@Component({
  selector: 'wr-employer-members',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Users
      @if (page.mayChange() && page.editing() !== 'people-here') {
        <button class="quiet" type="button" (click)="page.edit('people-here')">Add a user</button>
      }
    </h2>
    @if (invited(); as name) {
      <p class="notice" role="status">
        {{ name }} is invited: the letter with the link is in the outbox. Until they accept, they have no right here.
      </p>
    }
    @if (page.editing() === 'people-here') {
      <form class="panel-form" (ngSubmit)="add()">
        <div class="form">
          <label class="field">E-mail <input name="memberEmail" [(ngModel)]="member.email" /></label>
          <label class="field">Name <input name="memberName" [(ngModel)]="member.name" /></label>
          <label class="field"
            >Role
            <select name="memberRole" [(ngModel)]="member.role">
              @for (role of roles; track role.value) {
                <option [value]="role.value">{{ role.label }}</option>
              }
            </select>
          </label>
        </div>
        <wr-problem [problem]="page.problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Invite user</button>
          <button class="quiet" type="button" (click)="page.stop()">Cancel</button>
        </div>
      </form>
    } @else if (!page.editing()) {
      <wr-problem [problem]="page.problem()" />
    }
    <table class="lines">
      @for (member of setUp().members; track member.id) {
        <tr>
          <td>
            {{ member.name }}
            <div class="muted">{{ inWords(member) }}</div>
          </td>
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
                <option value="">no access</option>
              </select>
              <button class="quiet" type="button" (click)="open.set(open() === member.id ? '' : member.id)">Rights</button>
            } @else {
              {{ member.role }}
            }
          </td>
        </tr>
        @if (open() === member.id) {
          <tr>
            <td colspan="3">
              <fieldset class="rights">
                <legend class="muted">What {{ member.name }} may do, right by right</legend>
                @for (right of rights; track right) {
                  <label
                    ><input type="checkbox" [checked]="has(member, right)" [disabled]="right === 'read'" (change)="toggle(member, right)" />
                    {{ words[right] }}</label
                  >
                }
              </fieldset>
              @if (member.rights) {
                <button class="quiet" type="button" (click)="setRole(member, member.role)">Back to the ready set of the role</button>
              }
              @if (member.secondFactor) {
                <button class="quiet" type="button" (click)="forgetFactor(member)">Remove lost authenticator</button>
              }
            </td>
          </tr>
        }
      }
    </table>
  `,
  styles: `
    .rights {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 18px;
      border: 0;
      padding: 0;
      margin: 0 0 6px;
    }
    .rights legend {
      float: none;
      font-size: 13px;
      padding: 0;
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerMembers {
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  private readonly api = inject(Api);
  protected readonly roles = ROLES;
  protected readonly rights = RIGHTS;
  protected readonly words = RIGHTS_IN_WORDS;
  /** Who was invited last. */
  protected readonly invited = signal('');
  /** Whose rights are shown one by one. */
  protected readonly open = signal('');
  protected member: BodyOf<'addMember'> = { email: '', name: '', role: 'clerk' };

  constructor() {
    effect(() => {
      const editing = this.page.editing();
      if (editing) this.invited.set('');
      if (editing === 'people-here') this.member = { email: '', name: '', role: 'clerk' };
    });
  }

  protected add(): void {
    const { name } = this.member;
    this.page.run(this.api.call('addMember', { body: this.member }), () => this.invited.set(name));
  }

  protected inWords(member: Member): string {
    const words = [member.accepted ? '' : 'invited, not accepted yet', member.secondFactor ? 'signs in with a second factor' : ''];
    if (member.rights) words.push(`may ${member.rights.map((right) => RIGHTS_IN_WORDS[right]).join(', ')}`);
    return words.filter(Boolean).join('; ');
  }

  protected has(member: Member, right: Right): boolean {
    return member.rights ? right === 'read' || member.rights.includes(right) : RIGHTS_OF[member.role].includes(right);
  }

  protected toggle(member: Member, right: Right): void {
    const now = RIGHTS.filter((one) => (one === right ? !this.has(member, one) : this.has(member, one)));
    this.page.run(this.api.call('changeMember', { path: { id: member.id }, body: { role: member.role, rights: now } }));
  }

  protected setRole(member: Member, role: string): void {
    this.page.run(this.api.call('changeMember', { path: { id: member.id }, body: { role: (role || null) as Role | null } }));
  }

  protected forgetFactor(member: Member): void {
    this.page.run(this.api.call('forgetSecondFactor', { path: { id: member.id } }));
  }
}
