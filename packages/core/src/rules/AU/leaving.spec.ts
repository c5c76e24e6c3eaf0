import { Exact } from '../../money/exact';
import { Paper } from '../../working/reckoning';
import { packOf } from '../registry';
import { yearsOfService } from './termination';

const { leaving } = packOf('AU');
const week = { key: 'week', label: 'Pay of a week', amount: Exact.of('1500.00') };
const facts = (hired: string, lastDay: string, more: object = {}) => ({ kind: 'redundant', hired, lastDay, week, ...more });

describe('Leaving in Australia', () => {
  it('counts whole years with the last day', () => {
    expect(['2026-03-18', '2026-03-19', '2027-03-19'].map((lastDay) => yearsOfService('2025-03-20', lastDay))).toEqual([0, 1, 2]);
    expect(yearsOfService('2024-02-29', '2025-02-27')).toBe(0);
    expect(yearsOfService('2024-02-29', '2025-02-28')).toBe(1);
  });

  it('pays weeks of redundancy by years of service: Fair Work Act 2009, section 119', () => {
    const weeks = (years: number) => {
      const [payment] = leaving.owed!(facts('2010-03-20', `${2010 + years}-03-19`), new Paper(true));
      return payment?.figure ? Number(payment.figure.amount.toDecimal(2)) / 1500 : 0;
    };
    expect([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 25].map(weeks)).toEqual([0, 4, 6, 7, 8, 10, 11, 13, 14, 16, 12, 12]);
  });

  it('says why nothing is owed: another reason, a small business, no rate', () => {
    const of = (more: object) => leaving.owed!(facts('2010-03-20', '2026-03-20', more), new Paper(true));
    expect(of({ kind: 'resigned' })).toEqual([]);
    expect(of({ employer: { smallBusiness: true } })[0]?.sentence).toContain('small business');
    expect(of({ week: undefined })[0]?.sentence).toContain('Enter a rate of pay');
  });

  it('wants notice by service, a week more for who is over 45 with two years: section 117', () => {
    const weeks = (hired: string, more: object = {}) =>
      leaving.leastNotice!(facts(hired, '2026-03-20', { kind: 'dismissed', ...more })).weeks;
    // More than one, three and five years.
    expect(['2025-03-21', '2025-03-20', '2023-03-21', '2023-03-20', '2021-03-21', '2021-03-20'].map((hired) => weeks(hired))).toEqual([
      1, 2, 2, 3, 3, 4,
    ]);
    expect([weeks('2020-01-06', { born: '1981-03-19' }), weeks('2020-01-06', { born: '1981-03-20' })]).toEqual([5, 4]);
    expect(weeks('2024-06-03', { born: '1960-01-01' })).toBe(2);
    expect(weeks('2010-01-04', { kind: 'misconduct' })).toBe(0);
  });

  it('tells termination payments from the rest on its statement', () => {
    const parts = leaving.certificate!.of({
      name: 'Wen Barraclough',
      number: '123456782',
      code: 'C009',
      lastDay: '2026-03-06',
      lastPaid: '2026-03-10',
      frequency: 'fortnightly',
      employer: { abn: '51824753556' },
      tax: {},
      sums: { 'au.etp.R': 758_800, 'au.paygw.etp.R': 242_800, 'au.lump.D': 5_241_200, 'au.lump.R': 520_000, 'au.paygw': 166_400 },
    });
    const rows = (heading: string) => parts.find((part) => part.heading === heading)?.rows.map(([label, value]) => `${label}: ${value}`);
    expect(rows('Employment termination payments')).toEqual([
      'Code R, life benefit, excluded from the whole-of-income cap: taxable component: 7,588.00',
      'Tax withheld from it: 2,428.00',
      'Paid on: 10 Mar 2026',
      'To be given by, where a summary is due: 24 Mar 2026',
    ]);
    expect(rows('Paid on leaving, and no termination payment')).toEqual([
      'Lump sum A, redundancy or invalidity: 5,200.00',
      'Lump sum D, tax-free part of redundancy: 52,412.00',
    ]);
    expect(JSON.stringify(parts)).not.toContain('123456782');
  });
});
