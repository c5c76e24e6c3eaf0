import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Review } from '@woodruff/contract';
import { part, type Part } from '../../testing/part';
import { sheetOf, TOTALS } from '../../testing/sheet';
import { workingActions } from '../working/working.store';
import { reviewStore } from './pay-runs.store';
import { RunReview } from './run-review';

const line = (code: string, kind: string, amount: number, before: number) => ({ code, kind, label: code, amount, before, people: 22 });
const REVIEW: Review = {
  choices: [
    { id: 'last', label: '13 Nov 2026' },
    { id: 'before', label: '30 Oct 2026' },
  ],
  against: { id: 'last', payDate: '2026-11-13', totals: TOTALS },
  lines: [
    line('Ordinary', 'earning', 4_000_000, 3_950_000),
    line('Overtime', 'earning', 90_000, 30_000),
    line('Health premium', 'deduction-before-tax', 110_000, 110_000),
    line('Federal income tax', 'tax', 400_000, 390_000),
  ],
  unusual: Array.from({ length: 11 }, (_none, index) => ({
    payslipId: `p${index}`,
    name: `Person ${index}`,
    code: 'overtime',
    cost: 50_000 - index,
    sentence: 'Twice the overtime of any earlier run.',
    figure: 'overtime',
  })),
  changes: [
    {
      at: '2026-11-20T10:02:00Z',
      who: 'O. Mirren',
      what: 'Ordinary 34.60 instead of 33.00',
      about: 'Bertil Amsden',
      link: '/people/amsden',
    },
  ],
  funding: [
    { date: '2026-11-25', to: 'Bank', what: 'Net pay', amount: 2_951_895, code: null },
    { date: '2026-12-02', to: 'United States Treasury', what: 'Federal income tax', amount: 400_000, code: 'us.fit' },
    { date: '2026-12-02', to: 'United States Treasury', what: 'Social security', amount: 300_000, code: 'us.oasdi' },
  ],
  departments: [
    { department: 'Hot shop', people: 12, cost: 3_000_000, before: 2_900_000 },
    { department: 'Packing', people: 1, cost: 1_500_000, before: 1_500_000 },
  ],
  history: [],
  accepted: [{ sentence: 'No hours yet.', who: 'Imke Dunmore', reason: 'no work', by: 'O. Mirren', payslipId: 'i' }],
};

describe('The review of a run', () => {
  let shown: Part<RunReview>;

  async function review(more: Partial<Review> = {}): Promise<void> {
    shown = await part(
      RunReview,
      { sheet: sheetOf([]) },
      { stores: [reviewStore as never], arrives: [reviewStore.loaded({ data: { ...REVIEW, ...more } })] },
    );
  }

  it('adds up every kind of line, and marks what moved by more than a quarter', async () => {
    await review();
    expect(shown.text).toContain('Compared with the run paid 13 Nov 2026');
    expect(shown.text).toContain('Earnings 39,800.00 40,900.00 +1,100.00');
    expect(shown.text).toContain('Federal income tax 22 3,900.00 4,000.00 +100.00');
    const marked = [...shown.element.querySelectorAll('td.attention')].map((one) => one.textContent.trim());
    expect(marked).toEqual(['+600.00']);
  });

  it('gathers the money needed by the day on which it has to be there', async () => {
    await review();
    expect(shown.text).toMatch(/Wed 25 Nov 2026 29,518\.95 Net pay Bank 29,518\.95/);
    expect(shown.text).toMatch(/Wed 2 Dec 2026 7,000\.00 Federal income tax ?United States Treasury 4,000\.00/);
  });

  it('names what is unusual, dearest first, and opens it to its figure', async () => {
    await review();
    expect(shown.element.querySelector('section')?.querySelectorAll('tr').length).toBe(8);
    await shown.press('All 11');
    expect(shown.text).toContain('Person 10');
    const dispatched = spyOn(TestBed.inject(Store), 'dispatch');
    await shown.press('Person 10');
    expect(dispatched).toHaveBeenCalledWith(
      workingActions.open({ frame: { kind: 'figure', payslipId: 'p10', key: 'overtime' }, anew: true }),
    );
  });

  it('opens a sum to the people behind it, and a department to its people', async () => {
    await review();
    const dispatched = spyOn(TestBed.inject(Store), 'dispatch');
    await shown.press('Overtime');
    const entries = [{ payslipId: 'p', name: 'Ines Halloway', amount: 90_000, figure: 'overtime' }];
    await shown.answer('GET', '/behind?code=Overtime', entries);
    expect(dispatched).toHaveBeenCalledWith(
      workingActions.open({ frame: { kind: 'total', title: 'Overtime', figure: 'Overtime', entries }, anew: true }),
    );
    await shown.press('Hot shop');
    await shown.answer('GET', '/behind?code=&department=Hot+shop', []);
    expect(dispatched).toHaveBeenCalledWith(
      workingActions.open({ frame: { kind: 'total', title: 'Cost, Hot shop', figure: 'employer-cost', entries: [] }, anew: true }),
    );
  });

  it('is compared with another run by the address, which can be sent to somebody', async () => {
    await review();
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await shown.fill('Compared with', 'before');
    expect(navigate).toHaveBeenCalledWith([], { queryParams: { against: 'before' }, queryParamsHandling: 'merge' });
  });

  it('says who changed what in set-up, and who accepted what with which reason', async () => {
    await review();
    expect(shown.text).toContain('Bertil Amsden Ordinary 34.60 instead of 33.00 O. Mirren');
    expect(shown.element.querySelector('a[href="/people/amsden"]')).not.toBeNull();
    expect(shown.text).toContain('Imke Dunmore No hours yet. no work O. Mirren');
  });

  it('of a first run has nothing to compare with, and marks nothing', async () => {
    await review({ against: null, choices: [], unusual: [], changes: [] });
    expect(shown.text).toContain('nothing: no earlier run');
    expect(shown.text).toContain('Nothing is unusual.');
    expect(shown.element.querySelector('td.attention')).toBeNull();
  });
});
