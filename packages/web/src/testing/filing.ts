import type { FilingView } from '@woodruff/contract';

/** A return of a quarter that is over, as the server gives it. */
export const filing = (more: Partial<FilingView> = {}): FilingView => ({
  filing: '941',
  form: 'Form 941',
  name: 'Federal quarterly return',
  agency: 'Internal Revenue Service',
  period: { key: '2026-Q3', label: 'quarter 3 of 2026', from: '2026-07-01', to: '2026-09-30', due: '2026-11-02', taxYear: '2026' },
  state: 'due',
  complete: true,
  employer: { name: 'Quillmere Glassworks', number: '00-4417226' },
  lines: [
    { line: '2', label: 'Wages', amount: 46_093_791, unit: 'money', codes: ['us.fit.wages'], working: 'Posted in the quarter.' },
    { line: '12', label: 'Taxes', amount: 10_511_540, unit: 'money', codes: [], working: 'Line 10.', sum: true },
  ],
  byDay: { title: 'Liability by pay date', codes: ['us.fit'], days: [{ date: '2026-07-10', amount: 863_965 }] },
  copies: [],
  copyOf: null,
  checks: [{ sentence: 'Lines agree', holds: true }],
  enters: [],
  source: 'A publication',
  statement: 'I have looked at this return.',
  signatory: { name: 'Aurelia Quillmere', title: 'Managing director' },
  events: [],
  next: ['prepared'],
  filed: null,
  ...more,
});
