import { provideHttpClient } from '@angular/common/http';
import { provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { PayslipView, Sheet } from '@woodruff/contract';
import { sessionFeature } from '../session/session.store';
import { PayslipEdit } from './payslip-edit';
import { runActions } from './pay-runs.store';

describe('One payslip of a run', () => {
  function edit(edits: object, payslip: Partial<PayslipView> = {}) {
    TestBed.configureTestingModule({
      providers: [provideRouter([]), provideStore(), provideState(sessionFeature), provideHttpClient(), provideHttpClientTesting()],
    });
    const fixture = TestBed.createComponent(PayslipEdit);
    const sheet = {
      run: { id: 'run' },
      oneOffItems: [{ code: 'bonus', name: 'Bonus', kind: 'earning' }],
      rows: [{ payslipId: 'p', included: true, edits }],
    } as unknown as Sheet;
    const lines = [
      { id: 'health', code: 'health', kind: 'deduction-before-tax', label: 'Health premium', amount: 9200, yearToDate: 0 },
      { id: 'us.fit', code: 'us.fit', kind: 'tax', label: 'Federal income tax', amount: 10024, yearToDate: 0 },
    ];
    fixture.componentRef.setInput('sheet', sheet);
    fixture.componentRef.setInput('shown', { id: 'p', state: 'draft', lines, problems: [], ...payslip });
    fixture.componentRef.setInput('editable', payslip.state === undefined);
    fixture.componentRef.setInput('mayReverse', true);
    fixture.detectChanges();
    const element = fixture.nativeElement as HTMLElement;
    const press = (name: string) => {
      [...element.querySelectorAll('button')].find((candidate) => candidate.textContent.trim() === name)!.click();
      fixture.detectChanges();
    };
    const fill = (label: string, value: string) => {
      const input = [...element.querySelectorAll('label')]
        .find((candidate) => candidate.textContent.includes(label))!
        .querySelector('input')!;
      input.value = value;
      input.dispatchEvent(new Event('input'));
    };
    return { fixture, element, press, fill, dispatched: spyOn(TestBed.inject(Store), 'dispatch') };
  }

  it('a one-off is added to those there are', () => {
    const { press, fill, dispatched } = edit({ oneOffs: [{ id: 'sheet', item: 'bonus', amount: '10.00' }] });
    press('Add a one-off');
    fill('Amount', '84.205');
    press('Add it to this payslip');
    fill('Amount', '1,084.20');
    press('Add it to this payslip');
    expect(dispatched.calls.mostRecent().args[0] as unknown).toEqual(
      runActions.enter({
        payslipId: 'p',
        entry: {
          oneOffs: [
            { id: 'sheet', item: 'bonus', amount: '10.00' },
            { id: 'beside-2', item: 'bonus', amount: '1084.20' },
          ],
        },
      }),
    );
  });

  it('a one-off is changed in its place', () => {
    const { element, press, fill, dispatched } = edit({
      oneOffs: [
        { id: 'sheet', item: 'bonus', amount: '10.00' },
        { id: 'beside-2', item: 'bonus', amount: '84.20', note: 'open day' },
      ],
    });
    const changes = [...element.querySelectorAll<HTMLButtonElement>('[aria-label="Change Bonus"]')];
    changes.at(-1)!.click();
    TestBed.tick();
    fill('Amount', '90');
    press('Save it on this payslip');
    expect(dispatched).toHaveBeenCalledWith(
      runActions.enter({
        payslipId: 'p',
        entry: {
          oneOffs: [
            { id: 'sheet', item: 'bonus', amount: '10.00' },
            { id: 'beside-2', item: 'bonus', amount: '90.00', note: 'open day' },
          ],
        },
      }),
    );
  });

  it('a one-off that is being changed stays so when the payslip arrives calculated again', () => {
    const { fixture, element } = edit({ oneOffs: [{ id: 'beside-1', item: 'bonus', amount: '84.20' }] });
    element.querySelector<HTMLButtonElement>('[aria-label="Change Bonus"]')!.click();
    fixture.detectChanges();
    fixture.componentRef.setInput('shown', { ...fixture.componentInstance.shown() });
    fixture.detectChanges();
    expect(element.textContent).toContain('Save it on this payslip');
  });

  it('a one-off that was being changed is not taken along to another payslip', () => {
    const { fixture, element, press, dispatched } = edit({ oneOffs: [{ id: 'beside-1', item: 'bonus', amount: '84.20' }] });
    element.querySelector<HTMLButtonElement>('[aria-label="Change Bonus"]')!.click();
    fixture.detectChanges();
    expect(element.textContent).toContain('Save it on this payslip');
    fixture.componentRef.setInput('sheet', {
      run: { id: 'run' },
      oneOffItems: [{ code: 'bonus', name: 'Bonus', kind: 'earning' }],
      rows: [{ payslipId: 'other', included: true, edits: {} }],
    });
    fixture.componentRef.setInput('shown', { id: 'other', state: 'draft', lines: [], problems: [] });
    fixture.detectChanges();
    expect(element.textContent).not.toContain('Save it on this payslip');
    press('Add it to this payslip');
    expect(dispatched).toHaveBeenCalledWith(
      runActions.enter({ payslipId: 'other', entry: { oneOffs: [{ id: 'beside-1', item: 'bonus', amount: '84.20' }] } }),
    );
  });

  it('a recurring item has another amount this once, and is as set up again', () => {
    const { element, press, fill, dispatched } = edit({ amounts: [{ item: 'dues', amount: '5.00' }] });
    press('Change an amount');
    press('Use this amount once');
    expect(element.textContent).toContain('enter its amount on this payslip');
    expect(dispatched).not.toHaveBeenCalled();
    fill('Amount this once', '60');
    fill('Note on its working', 'part of the month');
    press('Use this amount once');
    expect(dispatched).toHaveBeenCalledWith(
      runActions.enter({
        payslipId: 'p',
        entry: {
          amounts: [
            { item: 'dues', amount: '5.00' },
            { item: 'health', amount: '60.00', note: 'part of the month' },
          ],
        },
      }),
    );
    press('as set up');
    expect(dispatched).toHaveBeenCalledWith(runActions.enter({ payslipId: 'p', entry: { amounts: [] } }));
  });

  it('a tax by hand needs a reason', () => {
    const { element, press, fill, dispatched } = edit({});
    press('Override a tax');
    fill('Amount', '50');
    press('Use this amount once');
    expect(element.textContent).toContain('Give a reason of at least three letters');
    expect(dispatched).not.toHaveBeenCalled();
    fill('Reason', 'agency letter');
    press('Use this amount once');
    expect(dispatched).toHaveBeenCalledWith(
      runActions.enter({ payslipId: 'p', entry: { overrides: [{ tax: 'us.fit', amount: '50.00', reason: 'agency letter' }] } }),
    );
  });

  it('an item is left out and taken back in', () => {
    const { press, dispatched } = edit({ leftOut: ['dues'] });
    press('Leave an item out');
    press('leave out');
    expect(dispatched).toHaveBeenCalledWith(runActions.enter({ payslipId: 'p', entry: { leftOut: ['dues', 'health'] } }));
    press('include again');
    expect(dispatched).toHaveBeenCalledWith(runActions.enter({ payslipId: 'p', entry: { leftOut: [] } }));
  });

  it('a posted payslip cannot be edited, only reversed', () => {
    const { element, press } = edit({}, { state: 'posted' });
    expect(element.textContent).not.toContain('This run only');
    press('Reverse this payslip …');
    expect(element.querySelector('wr-payslip-reversal')).not.toBeNull();
  });
});
