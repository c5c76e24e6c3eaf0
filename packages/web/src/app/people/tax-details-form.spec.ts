import { provideHttpClient } from '@angular/common/http';
import { provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { EmployerPage } from '@woodruff/contract';
import { packOf } from '@woodruff/core';
import { sessionFeature } from '../session/session.store';
import { employerStore } from './people.store';
import { TaxDetailsForm } from './tax-details-form';

describe('The form of tax details', () => {
  function form(facts: Record<string, unknown> | null) {
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(employerStore.name, employerStore.reducer),
        provideState(sessionFeature),
        provideHttpClient(),
        provideHttpClientTesting(),
      ],
    });
    TestBed.inject(Store).dispatch(
      employerStore.loaded({ data: { taxForm: packOf('US').taxForm, entries: {} } as unknown as EmployerPage }),
    );
    const fixture = TestBed.createComponent(TaxDetailsForm);
    fixture.componentRef.setInput('personId', 'p1');
    fixture.componentRef.setInput('facts', facts);
    fixture.componentRef.setInput('begins', '2026-11-23');
    fixture.detectChanges();
    const element = fixture.nativeElement as HTMLElement;
    const field = <T extends HTMLElement>(label: string) =>
      [...element.querySelectorAll('label')].find((candidate) => candidate.textContent.includes(label))?.querySelector<T>('input, select');
    return { fixture, field, element };
  }

  it('shows the fields of the certificate chosen, in the form’s own terms', () => {
    const { fixture, field } = form({ federal: { certificate: '2020', status: 'single' } });
    expect(field('Two-jobs box, step 2(c)')).toBeTruthy();
    expect(field('Allowances, line 5')).toBeFalsy();
    const choice = field<HTMLSelectElement>('Form used')!;
    choice.value = '2019';
    choice.dispatchEvent(new Event('change'));
    fixture.detectChanges();
    expect(field('Allowances, line 5')).toBeTruthy();
    expect(field('Two-jobs box')).toBeFalsy();
  });

  it('gives the details from a date on, leaving the ones on file as they were', () => {
    const onFile = { federal: { certificate: '2020', status: 'single' }, residentState: 'PA', workState: 'PA' };
    const { fixture, field, element } = form(onFile);
    const saved: unknown[] = [];
    fixture.componentInstance.saved.subscribe((details) => saved.push(details));
    const extra = field<HTMLInputElement>('Extra withholding')!;
    extra.value = '25';
    extra.dispatchEvent(new Event('input'));
    element.querySelector<HTMLButtonElement>('.main-action')!.click();
    expect(saved).toEqual([{ from: '2026-11-23', facts: { ...onFile, federal: { ...onFile.federal, extra: '25' } } }]);
    expect(onFile.federal).toEqual({ certificate: '2020', status: 'single' });
  });
});
