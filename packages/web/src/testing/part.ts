import { RIGHTS_OF } from '@woodruff/contract';
import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import type { InputSignal, ModelSignal, Provider, Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { provideState, provideStore, Store, type Action, type ActionReducer } from '@ngrx/store';
import { sessionActions, sessionFeature } from '../app/session/session.store';

type Value<S> = S extends InputSignal<infer V> ? V : S extends ModelSignal<infer V> ? V : never;
type Inputs<T> = { [K in keyof T as Value<T[K]> extends never ? never : K]?: Value<T[K]> };

/** A part of a page on its own, as a test sees it: what it says, its fields by their labels, what it asks of the server. */
export class Part<T> {
  readonly element: HTMLElement;
  private readonly http = TestBed.inject(HttpTestingController);

  constructor(readonly fixture: ComponentFixture<T>) {
    this.element = fixture.nativeElement as HTMLElement;
  }

  get text(): string {
    return this.element.innerText.replace(/\s+/g, ' ').trim();
  }

  async settle(): Promise<void> {
    this.fixture.detectChanges();
    await this.fixture.whenStable();
    this.fixture.detectChanges();
  }

  /** A grid draws what it was given a little later. */
  async drawn(): Promise<void> {
    await new Promise((done) => setTimeout(done, 60));
    await this.settle();
  }

  /** Text from elsewhere, put in at an element. */
  async paste(text: string, at: HTMLElement = this.element): Promise<void> {
    const data = new DataTransfer();
    data.setData('text/plain', text);
    at.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    await this.drawn();
  }

  /** A file chosen from the disk. */
  async chooseFile(name: string, content: string): Promise<void> {
    const transfer = new DataTransfer();
    transfer.items.add(new File([content], name, { type: 'text/csv' }));
    const chooser = this.element.querySelector<HTMLInputElement>('input[type=file]')!;
    chooser.files = transfer.files;
    chooser.dispatchEvent(new Event('change'));
    await this.drawn();
  }

  /** A button by its name, as it is read out. */
  button(name: string): HTMLButtonElement {
    const found = [...this.element.querySelectorAll('button')].find(
      (one) => (one.getAttribute('aria-label') ?? one.textContent.replace(/\s+/g, ' ').trim()) === name,
    );
    if (!found) throw new Error(`there is no button “${name}” in: ${this.text}`);
    return found;
  }

  buttons(): string[] {
    return [...this.element.querySelectorAll('button')].map(
      (one) => one.getAttribute('aria-label') ?? one.textContent.replace(/\s+/g, ' ').trim(),
    );
  }

  async press(name: string): Promise<void> {
    this.button(name).click();
    await this.settle();
  }

  /** A field by the beginning of its label. */
  field(label: string): HTMLInputElement {
    const inside = [...this.element.querySelectorAll('label')].find((one) => one.textContent.replace(/\s+/g, ' ').trim().startsWith(label));
    const found = inside?.querySelector('input, select, textarea') ?? this.element.querySelector(`[aria-label="${label}"]`);
    if (!found) throw new Error(`there is no field “${label}” in: ${this.text}`);
    return found as HTMLInputElement;
  }

  async fill(label: string, value: string | boolean): Promise<void> {
    const field = this.field(label);
    if (typeof value === 'boolean') field.checked = value;
    else field.value = value;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    field.dispatchEvent(new Event('change', { bubbles: true }));
    field.dispatchEvent(new Event('blur'));
    await this.settle();
  }

  /** Answers what the part asked of the server, and gives what it sent. */
  async answer(method: string, ending: string, body: unknown, status = 200): Promise<unknown> {
    const request = this.http.expectOne((one) => one.method === method && one.urlWithParams.endsWith(ending));
    request.flush(body as object, status === 200 ? {} : { status, statusText: 'refused' });
    await this.settle();
    return request.request.body;
  }

  asksNothing(): void {
    this.http.verify();
  }

  /** What was given out through an output, in order. */
  given<V>(output: { subscribe(callback: (value: V) => void): unknown }): V[] {
    const values: V[] = [];
    output.subscribe((value) => values.push(value));
    return values;
  }
}

/** A refusal as the server words it. */
export const refused = (detail: string): object => ({ type: 'about:blank', title: 'Refused', status: 422, code: 'invalid', detail });

interface Around {
  stores?: readonly { name: string; reducer: ActionReducer<never> }[];
  actions?: readonly Action[];
  /** What arrives once the part is shown and has asked for it. */
  arrives?: readonly Action[];
  role?: 'clerk' | 'administrator' | 'viewer';
  /** Of the employer; its words and what it has come with it. */
  country?: string;
  /** Further employers of who is signed in. */
  alsoAt?: readonly { id: string; name: string }[];
  /** What the page around the part provides. */
  providers?: readonly Provider[];
  /** Width and height in pixels, for what fills the room it has. */
  size?: readonly [number, number];
}

/** Shows a part with its inputs, for somebody signed in at an employer on 23 November 2026. */
export async function part<T>(
  of: Type<T>,
  inputs: Inputs<T>,
  { stores = [], actions = [], arrives = [], role = 'clerk', country = 'US', alsoAt = [], providers = [], size }: Around = {},
): Promise<Part<T>> {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideStore(),
      provideState(sessionFeature),
      ...stores.map((store) => provideState(store.name, store.reducer)),
      provideRouter([]),
      provideHttpClient(),
      provideHttpClientTesting(),
      ...providers,
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(
    sessionActions.signedIn({
      session: {
        user: { id: 'u', name: 'O. Mirren', email: 'clerk@example.test' },
        csrfToken: '',
        secondFactor: false,
        authenticator: false,
        employers: [{ id: 'e', name: 'Works' }, ...alsoAt].map((employer) => ({
          ...employer,
          role,
          rights: [...RIGHTS_OF[role]],
          country,
          currency: 'USD',
          today: '2026-11-23',
          demo: true,
          beingPlayed: false,
        })),
      },
    }),
  );
  for (const action of actions) store.dispatch(action);
  const fixture = TestBed.createComponent(of);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  const shown = new Part(fixture);
  if (size) Object.assign(shown.element.style, { width: `${size[0]}px`, height: `${size[1]}px` });
  await shown.settle();
  for (const action of arrives) store.dispatch(action);
  await shown.settle();
  return shown;
}
