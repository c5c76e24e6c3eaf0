import { ChangeDetectionStrategy, Component, effect, inject, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { EmployerFacts } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { SetUpEdit } from './set-up-edit';

/** Who the employer is: name, address, contact, who signs, logo, who may approve. */
@Component({
  selector: 'wr-employer-legal',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Who it is
      @if (page.mayChange() && page.editing() !== 'legal') {
        <button class="quiet" type="button" (click)="page.edit('legal')" aria-label="Change: Who it is">Change</button>
      }
    </h2>
    @if (page.editing() === 'legal') {
      <form class="panel-form" (ngSubmit)="save()">
        <div class="form">
          <label class="field">Legal name <input name="name" [(ngModel)]="name" /></label>
          <label class="field"
            >Kind of employer
            <select name="kind" [(ngModel)]="draft.kind">
              <option value="">an ordinary one</option>
              @for (kind of setUp().form.kinds; track kind.code) {
                <option [value]="kind.code">{{ kind.label }}</option>
              }
            </select></label
          >
          <label class="field">Street <input name="line1" [(ngModel)]="draft.address.line1" /></label>
          <label class="field">City <input name="city" [(ngModel)]="draft.address.city" /></label>
          <label class="field">State <input name="state" maxlength="2" [(ngModel)]="draft.address.state" /></label>
          <label class="field">Postcode <input name="postcode" [(ngModel)]="draft.address.postcode" /></label>
          <label class="field">Contact <input name="contactName" [(ngModel)]="draft.contact.name" /></label>
          <label class="field">Contact's e-mail <input name="contactEmail" [(ngModel)]="draft.contact.email" /></label>
          <label class="field">Contact's phone <input name="contactPhone" [(ngModel)]="draft.contact.phone" /></label>
          <label class="field">Signs returns <input name="signatoryName" [(ngModel)]="draft.signatory.name" /></label>
          <label class="field"
            >As <input name="signatoryTitle" [(ngModel)]="draft.signatory.title" placeholder="owner, director …"
          /></label>
          <label class="check"
            ><input type="checkbox" name="second" [(ngModel)]="draft.secondPersonApproves" /> Whoever edited a run last may not approve
            it</label
          >
        </div>
        <wr-problem [problem]="page.problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Save who it is</button>
          <button class="quiet" type="button" (click)="page.stop()">Leave as it was</button>
        </div>
      </form>
    } @else {
      <dl class="pair">
        <dt>Address</dt>
        <dd>
          {{
            setUp().facts.address.line1
              ? setUp().facts.address.line1 +
                ', ' +
                setUp().facts.address.city +
                ', ' +
                setUp().facts.address.state +
                ' ' +
                setUp().facts.address.postcode
              : 'not on file yet'
          }}
        </dd>
        <dt>Contact</dt>
        <dd>{{ setUp().facts.contact.name || 'none named' }}{{ setUp().facts.contact.phone ? ', ' + setUp().facts.contact.phone : '' }}</dd>
        <dt>Signs returns</dt>
        <dd>
          {{ setUp().facts.signatory.name || 'nobody yet'
          }}{{ setUp().facts.signatory.title ? ', ' + setUp().facts.signatory.title.toLowerCase() : '' }}
        </dd>
        <dt>Logo on payslips</dt>
        <dd class="row-of">
          @if (setUp().hasLogo) {
            <img class="logo" [src]="logo()" alt="Logo" />
          } @else {
            <span>none</span>
          }
          @if (page.mayChange()) {
            <label class="file"
              ><input
                type="file"
                class="visually-hidden"
                accept="image/png,image/jpeg"
                aria-label="Logo, PNG or JPEG"
                (change)="chooseLogo($any($event.target))"
              /><span class="quiet">{{ setUp().hasLogo ? 'Choose another' : 'Choose a file …' }}</span></label
            >
            @if (setUp().hasLogo) {
              <button class="quiet" type="button" (click)="saveLogo('')">Take it away</button>
            }
          }
        </dd>
        <dt>Approval</dt>
        <dd>
          {{
            setUp().facts.secondPersonApproves ? 'Whoever edited a run last may not approve it' : 'Whoever may approve, also after editing'
          }}
        </dd>
      </dl>
      <wr-problem [problem]="page.editing() ? null : page.problem()" />
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerLegal {
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  private readonly api = inject(Api);
  protected name = '';
  protected draft!: EmployerFacts;

  constructor() {
    effect(() => {
      if (this.page.editing() !== 'legal') return;
      const { name, facts } = untracked(this.setUp);
      this.name = name;
      this.draft = structuredClone(facts);
    });
  }

  protected save(): void {
    const { kind, address, contact, signatory, secondPersonApproves } = this.draft;
    this.page.save({ name: this.name, facts: { kind, address, contact, signatory, secondPersonApproves } });
  }

  /** The address of the logo; another one after each change. */
  protected logo(): string {
    return `${this.api.url('logo')}?at=${this.setUp().changes[0]?.at ?? ''}`;
  }

  protected chooseLogo(chooser: HTMLInputElement): void {
    const file = chooser.files?.[0];
    chooser.value = '';
    if (!file) return;
    const reader = new FileReader();
    reader.onload = () => this.saveLogo(typeof reader.result === 'string' ? reader.result.replace(/^data:[^,]*,/, '') : '');
    reader.readAsDataURL(file);
  }

  protected saveLogo(content: string): void {
    this.page.run(this.api.call('setLogo', { body: { content } }));
  }
}
