import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideState, provideStore } from '@ngrx/store';
import type { NetPayment, PayslipView } from '@woodruff/contract';
import { sessionFeature } from '../session/session.store';
import { PayslipPayment } from './payslip-payment';

const PAYMENT: NetPayment = {
  method: 'deposit',
  parts: [{ label: 'checking account ending 3333', amount: 180_000 }],
  accounts: [{ id: 'a', label: 'checking account ending 3333' }],
  made: [],
};

describe('How a payslip is paid', () => {
  function shown(payslip: Partial<PayslipView>, payment: Partial<NetPayment> = {}) {
    TestBed.configureTestingModule({
      providers: [provideStore(), provideState(sessionFeature), provideHttpClient(), provideHttpClientTesting()],
    });
    const fixture = TestBed.createComponent(PayslipPayment);
    fixture.componentRef.setInput('payslip', { id: 'p', state: 'draft', totals: { net: 180_000 }, ...payslip });
    fixture.componentRef.setInput('editable', true);
    fixture.componentRef.setInput('mayPay', true);
    const chosen = jasmine.createSpy('chosen');
    fixture.componentInstance.chosen.subscribe(chosen);
    fixture.detectChanges();
    const http = TestBed.inject(HttpTestingController);
    http.expectOne((request) => request.url.endsWith('/payslips/p/payment')).flush({ ...PAYMENT, ...payment });
    fixture.detectChanges();
    const element = fixture.nativeElement as HTMLElement;
    const press = (name: string) => {
      [...element.querySelectorAll('button')].find((button) => button.textContent.trim() === name)!.click();
      fixture.detectChanges();
    };
    return { element, press, chosen };
  }

  it('is by the accounts on file, or otherwise for this payslip only', () => {
    const { element, press, chosen } = shown({});
    expect(element.textContent).toContain('to the accounts on file');
    press('Otherwise this once …');
    press('Cash');
    expect(chosen).toHaveBeenCalledWith({ method: 'cash' });
    element.querySelector('input')!.dispatchEvent(new Event('change'));
    expect(chosen).toHaveBeenCalledWith({ without: ['a'] });
  });

  it('is paid again only once it is posted, and shows what was stopped and why', () => {
    const made = { method: 'cheque' as const, amount: 180_000, parts: [], by: 'O. Mirren', at: '2026-11-23T10:00:00' };
    const { element } = shown(
      { state: 'posted' },
      {
        made: [
          { ...made, id: '2', number: 1002, stopped: null },
          { ...made, id: '1', number: 1001, stopped: 'lost in the post' },
        ],
      },
    );
    expect(element.textContent).toContain('stopped: lost in the post');
    expect([...element.querySelectorAll('button')].map((button) => button.textContent.trim())).toEqual(['Lost or returned: pay again …']);
  });
});
