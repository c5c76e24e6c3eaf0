import { ChangeDetectionStrategy, Component, effect, inject, untracked, computed } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { EmployerFacts, SecondPersonFor } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { injectPack } from '../kit/pack';
import { SetUpEdit } from './set-up-edit';

const SECOND_PERSON_IN_WORDS: { code: SecondPersonFor; label: string }[] = [
  { code: 'release', label: 'payments released to the bank' },
  { code: 'payments', label: 'payments made again' },
  { code: 'bank', label: 'changes of bank details' },
  { code: 'reversals', label: 'reversals and withdrawals' },
  { code: 'openings', label: 'opening balances' },
  { code: 'adjustments', label: 'adjustments of balances' },
];

/** Who the employer is: name, address, contact, who signs, logo, who may approve. */
@Component({
  selector: 'wr-employer-legal',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Legal details
      @if (page.mayChange() && page.editing() !== 'legal') {
        <button class="quiet" type="button" (click)="page.edit('legal')" aria-label="Change: Legal details">Change</button>
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
          <label class="field">{{ pack()?.person?.address?.city ?? 'City' }} <input name="city" [(ngModel)]="draft.address.city" /></label>
          @if (pack()?.person?.address?.state; as state) {
            <label class="field">{{ state.label }} <input name="state" maxlength="6" [(ngModel)]="draft.address.state" /></label>
          }
          <label class="field"
            >{{ pack()?.person?.address?.postcode?.label }} <input name="postcode" [(ngModel)]="draft.address.postcode"
          /></label>
          <label class="field"
            >Time zone
            <select name="timeZone" [(ngModel)]="draft.timeZone">
              <option value="">that of the server</option>
              @for (zone of pack()?.timeZones ?? []; track zone) {
                <option [value]="zone">{{ zone.replace('_', ' ') }}</option>
              }
            </select></label
          >
          <label class="field">Contact <input name="contactName" [(ngModel)]="draft.contact.name" /></label>
          <label class="field">Contact's e-mail <input name="contactEmail" [(ngModel)]="draft.contact.email" /></label>
          <label class="field">Contact's phone <input name="contactPhone" [(ngModel)]="draft.contact.phone" /></label>
          <label class="field">Signs returns <input name="signatoryName" [(ngModel)]="draft.signatory.name" /></label>
          <label class="field"
            >As <input name="signatoryTitle" [(ngModel)]="draft.signatory.title" placeholder="owner, director …"
          /></label>
          <fieldset class="checks">
            <legend>A second person for</legend>
            <label class="check"
              ><input type="checkbox" name="second" [(ngModel)]="draft.secondPersonApproves" /> runs: nobody approves what they
              edited</label
            >
            @for (kind of kinds; track kind.code) {
              <label class="check"
                ><input type="checkbox" [name]="kind.code" [checked]="wants(kind.code)" (change)="toggle(kind.code)" />
                {{ kind.label }}</label
              >
            }
          </fieldset>
          <label class="check"
            ><input type="checkbox" name="factor" [(ngModel)]="draft.secondFactor" /> Who may approve, pay out, or see or change bank
            details signs in with a second factor</label
          >
        </div>
        <wr-problem [problem]="page.problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Save who it is</button>
          <button class="quiet" type="button" (click)="page.stop()">Cancel</button>
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
        <dt>Time zone</dt>
        <dd>{{ setUp().facts.timeZone.replace('_', ' ') || 'that of the server' }}</dd>
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
              <button class="quiet" type="button" (click)="saveLogo('')">Remove</button>
            }
          }
        </dd>
        <dt>Approval</dt>
        <dd>
          {{ approval() }}
        </dd>
      </dl>
      <wr-problem [problem]="page.editing() ? null : page.problem()" />
    }
  `,
  styles: `
    .checks {
      grid-column: 1 / -1;
      display: flex;
      flex-wrap: wrap;
      gap: 2px 22px;
      border: 0;
      padding: 0;
      margin: 6px 0 0;
    }
    .checks legend {
      float: none;
      width: 100%;
      padding: 0;
      margin: 0;
      font-size: 13px;
      font-weight: 400;
      color: var(--ink2);
    }
    .checks .check {
      padding: 0;
      margin: 0;
      min-height: 0;
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerLegal {
  protected readonly pack = injectPack();
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  private readonly api = inject(Api);
  protected name = '';
  protected draft!: EmployerFacts;
  protected readonly kinds = SECOND_PERSON_IN_WORDS;
  protected readonly approval = computed(() => {
    const { secondPersonApproves, secondPersonFor, secondFactor } = this.setUp().facts;
    const second = [
      ...(secondPersonApproves ? ['runs'] : []),
      ...SECOND_PERSON_IN_WORDS.filter(({ code }) => secondPersonFor?.includes(code)).map(({ label }) => label),
    ];
    const words = second.length ? `A second person for ${second.join(', ')}` : 'Any approver, including whoever edited the run';
    return secondFactor ? `${words}; with a second factor` : words;
  });

  constructor() {
    effect(() => {
      if (this.page.editing() !== 'legal') return;
      const { name, facts } = untracked(this.setUp);
      this.name = name;
      this.draft = structuredClone(facts);
    });
  }

  protected wants(code: SecondPersonFor): boolean {
    return this.draft.secondPersonFor?.includes(code) ?? false;
  }

  protected toggle(code: SecondPersonFor): void {
    const now = this.draft.secondPersonFor ?? [];
    this.draft.secondPersonFor = now.includes(code) ? now.filter((one) => one !== code) : [...now, code];
  }

  protected save(): void {
    const { kind, address, contact, signatory, secondPersonApproves, secondPersonFor, secondFactor } = this.draft;
    const approval = { secondPersonApproves, secondPersonFor: secondPersonFor ?? [], secondFactor: secondFactor ?? false };
    this.page.save({ name: this.name, facts: { kind, address, contact, signatory, ...approval } });
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
