import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { computePayslip, type PayslipInput } from '@woodruff/core';
import { FigureWorking } from './figure-working';
import example from '../../../../../docs/examples/payslip-glassblower.json';

describe('A working on screen', () => {
  const payslip = computePayslip(example as unknown as PayslipInput, { workings: true });

  function shown(key: string) {
    TestBed.configureTestingModule({ providers: [provideRouter([])] });
    const fixture = TestBed.createComponent(FigureWorking);
    fixture.componentRef.setInput('working', payslip.workings[key]);
    fixture.componentRef.setInput('workings', payslip.workings);
    fixture.componentRef.setInput('personId', 'p');
    fixture.detectChanges();
    return { fixture, text: (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ') };
  }

  it('reads as one would write it on paper, with source and rounding', () => {
    const { text } = shown('us.fit');
    for (const part of [
      '58,219.20',
      '− 8,600.00',
      '49,619.20',
      '1,240.00 + 12% of what is over 19,900.00',
      '184.86',
      'Rounded to the cent once, at the end',
      '100.24',
      'Worksheet 1A',
      'Certificate on file since 3 Mar 2025',
    ]) {
      expect(text).toContain(part);
    }
  });

  it('opens the figures behind its terms', () => {
    const { fixture } = shown('us.fit');
    const opened: string[] = [];
    fixture.componentInstance.opened.subscribe((key) => opened.push(key));
    const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLButtonElement>('button.opens')];
    for (const button of buttons) button.click();
    expect(opened).toEqual(['us.fit.wages', 'us.fit.credit']);
  });

  it('says what could not be checked', () => {
    expect(shown('us.unemployment.employee@US-PA').text).toContain('unconfirmed');
  });

  it('shows why a figure differs, summing to the difference', () => {
    const { fixture } = shown('us.fit');
    fixture.componentRef.setInput('difference', {
      compared: 'us.fit',
      earlier: 9664,
      later: 10024,
      difference: 360,
      earlierPayDate: '2026-11-13',
      causes: [{ group: 'hours', sentences: ['Ordinary: 80.00 instead of 78.75 hours'], share: 360 }],
    });
    fixture.detectChanges();
    const text = (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ');
    expect(text).toContain('Why it differs from 13 Nov 2026');
    expect(text).toContain('96.64 → 100.24');
    expect(text).toContain('+3.60');
  });
});
