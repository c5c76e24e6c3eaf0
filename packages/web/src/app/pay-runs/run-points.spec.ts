import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { provideStore, Store } from '@ngrx/store';
import type { OpenPoint } from '@woodruff/contract';
import { runActions } from './pay-runs.store';
import { RunPoints } from './run-points';

const point = (more: Partial<OpenPoint>): OpenPoint => ({
  key: 'k',
  weight: 'look',
  stage: 'check',
  sentence: 'Look at it.',
  who: 'Ines Halloway',
  payslipId: 'p',
  personId: 'i',
  itemId: null,
  figure: null,
  accepted: null,
  ...more,
});

describe('Open points', () => {
  function list(points: OpenPoint[]) {
    TestBed.configureTestingModule({ providers: [provideStore(), provideRouter([])] });
    const fixture = TestBed.createComponent(RunPoints);
    fixture.componentRef.setInput('sheet', { run: { id: 'run', scheduleId: 'fortnightly', from: '2026-11-08' }, points });
    fixture.componentRef.setInput('editable', true);
    fixture.detectChanges();
    const element = fixture.nativeElement as HTMLElement;
    const button = (name: string) => [...element.querySelectorAll('button')].find((candidate) => candidate.textContent.trim() === name);
    return { fixture, element, button, dispatched: spyOn(TestBed.inject(Store), 'dispatch') };
  }

  it('are accepted with a reason of at least three letters', () => {
    const { fixture, element, button, dispatched } = list([point({})]);
    button('Accept with a reason')!.click();
    fixture.detectChanges();
    expect(button('Accept it')!.disabled).toBeTrue();
    const input = element.querySelector('input')!;
    input.value = 'agreed with her';
    input.dispatchEvent(new Event('input'));
    fixture.detectChanges();
    button('Accept it')!.click();
    expect(dispatched).toHaveBeenCalledWith(runActions.acceptPoints({ runId: 'run', keys: ['k'], reason: 'agreed with her' }));
  });

  it('that say the same of several people are accepted together, unless only one is meant', () => {
    const same = { sentence: 'No hours yet.' };
    const { fixture, element, button, dispatched } = list([
      point({ key: 'a', ...same }),
      point({ key: 'b', ...same }),
      point({ key: 'c' }),
    ]);
    button('Accept with a reason')!.click();
    fixture.detectChanges();
    const input = element.querySelector<HTMLInputElement>('.accept .field input')!;
    input.value = 'no work';
    input.dispatchEvent(new Event('input'));
    fixture.detectChanges();
    button('Accept 2')!.click();
    expect(dispatched).toHaveBeenCalledWith(runActions.acceptPoints({ runId: 'run', keys: ['a', 'b'], reason: 'no work' }));
  });

  it('that stop the run cannot be accepted, only fixed', () => {
    const { element, button } = list([point({ weight: 'stop' })]);
    expect(button('Accept with a reason')).toBeUndefined();
    expect(element.textContent).toContain('must be fixed');
  });

  it('of an item lead to the item', () => {
    const { element } = list([point({ payslipId: null, itemId: 'health', who: 'Health premium' })]);
    expect(element.querySelector('a')?.getAttribute('href')).toBe('/pay-items/health');
  });

  it('of time lead to the time of the period', () => {
    const { element } = list([point({ key: 'time:i:3' })]);
    expect(element.querySelector('a')?.getAttribute('href')).toBe('/time?schedule=fortnightly&from=2026-11-08');
  });

  it('none left: says so', () => expect(list([]).element.textContent).toContain('Nothing in this run needs a person.'));
});
