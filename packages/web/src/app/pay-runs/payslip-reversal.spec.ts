import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { part, refused, type Part } from '../../testing/part';
import { runActions } from './pay-runs.store';
import { PayslipReversal } from './payslip-reversal';

const PREVIEW = {
  name: 'Ines Halloway',
  payDate: '2026-11-13',
  reversalDate: '2026-11-23',
  net: 183_691,
  touches: [{ what: 'Gross pay in 2026', before: 5_000_000, after: 4_752_000 }],
  notes: ['The bank has the payment already: it is called back, or repaid.'],
};

describe('The reversal of a payslip', () => {
  let shown: Part<PayslipReversal>;
  let dispatched: jasmine.Spy;

  async function reversal(): Promise<void> {
    shown = await part(PayslipReversal, { payslipId: 'p' });
    dispatched = spyOn(TestBed.inject(Store), 'dispatch');
  }

  it('shows first what it touches, before and after', async () => {
    await reversal();
    expect(shown.buttons()).toEqual([]);
    await shown.answer('GET', '/payslips/p/reversal', PREVIEW);
    expect(shown.text).toContain('Reverses the payslip of Ines Halloway paid Fri 13 Nov 2026, net 1,836.91.');
    expect(shown.text).toContain('Gross pay in 2026 50,000.00 47,520.00');
    expect(shown.text).toContain('it is called back, or repaid');
  });

  it('takes a reason, and opens a replacement unless told otherwise', async () => {
    await reversal();
    await shown.answer('GET', '/payslips/p/reversal', PREVIEW);
    const left = shown.given(shown.fixture.componentInstance.left);
    await shown.fill('Reason', ' wrong hours ');
    await shown.press('Reverse payslip');
    expect(dispatched).toHaveBeenCalledWith(runActions.reverse({ payslipId: 'p', reason: 'wrong hours', replace: true }));
    shown.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await shown.settle();
    await shown.press('Reverse payslip');
    expect(dispatched).toHaveBeenCalledWith(runActions.reverse({ payslipId: 'p', reason: 'wrong hours', replace: false }));
    expect(left.length).toBe(2);
  });

  it('is not made without a reason, and what was entered stays', async () => {
    await reversal();
    await shown.answer('GET', '/payslips/p/reversal', PREVIEW);
    await shown.fill('Reason', 'x');
    await shown.press('Reverse payslip');
    expect(dispatched).not.toHaveBeenCalled();
    expect(shown.text).toContain('Give a reason of at least three letters');
    expect(shown.field('Reason').value).toBe('x');
  });

  it('says why it is not possible', async () => {
    await reversal();
    await shown.answer('GET', '/payslips/p/reversal', refused('This payslip is reversed already.'), 409);
    expect(shown.text).toBe('This payslip is reversed already.');
    expect(shown.buttons()).toEqual([]);
  });
});
