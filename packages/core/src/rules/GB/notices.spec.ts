import type { XmlNode } from '../../files/xml-tree';
import { notices } from './notices';

const node = (name: string, content: string | XmlNode[], attributes: Record<string, string> = {}): XmlNode =>
  typeof content === 'string' ? { name, attributes, text: content, children: [] } : { name, attributes, text: '', children: content };
const notice = (form: string, more: XmlNode[], issued = '2026-05-04') =>
  node('Notice', [
    node('FormType', form),
    node('EmployerRef', '946/RW210'),
    node('Name', [node('Fore', 'Nia'), node('Sur', 'Harries')]),
    node('NINO', 'AB110966A'),
    node('WorksNumber', 'R008'),
    node('IssueDate', issued),
    node('EffectiveDate', '2026-05-11'),
    ...more,
  ]);
const read = (...all: XmlNode[]) => notices.read(node('CodingNotices', all));
const code = (text: string, attributes: Record<string, string> = {}) => node('CodingUpdate', [node('TaxCode', text, attributes)]);

describe('Notices of codes and loans', () => {
  it('say whose they are, since when they hold and what they change', () => {
    const [first] = read(notice('P6', [code('C1100L', { Week1Month1: 'Y' })])).notices;
    expect(first).toEqual({
      kind: 'tax-code',
      label: 'tax code C1100L, week 1 / month 1',
      number: 'AB110966A',
      code: 'R008',
      name: 'Nia Harries',
      employer: '946/RW210',
      issued: '2026-05-04',
      from: '2026-05-11',
      changes: { taxCode: 'C1100L', basis: 'week-1-month-1' },
    });
  });

  it('bring pay and tax of an earlier employment along, and start and stop loans', () => {
    const update = node('CodingUpdate', [
      node('TaxCode', '1257L'),
      node('PreviousPay', '4100.00'),
      node('PreviousTax', '390.20'),
      node('TaxYear', '2026-27'),
    ]);
    const { notices: all } = read(
      notice('P9', [update]),
      notice('SL1', [node('LoanStart', '', { PlanType: '02' })]),
      notice('SL2', []),
      notice('PGL1', []),
      notice('PGL2', []),
    );
    expect(all.map(({ changes }) => changes)).toEqual([
      { taxCode: '1257L', basis: 'cumulative', previousPay: '4100.00', previousTax: '390.20', previousYear: '2026-27' },
      { studentLoan: '2' },
      { studentLoan: 'none' },
      { postgraduateLoan: true },
      { postgraduateLoan: false },
    ]);
  });

  it('that cannot be are named, and the others are read', () => {
    const { notices: all, faults } = read(
      notice('P6', [code('1257Q')]),
      notice('P45', []),
      notice('SL1', [node('LoanStart', '', { PlanType: '09' })]),
      notice('SL2', [], 'soon'),
      notice('SL2', []),
    );
    expect([all.length, faults.length]).toEqual([1, 4]);
    expect(faults[0]).toBe('Notice 1, Nia Harries: the code “1257Q” cannot exist.');
    expect(read().faults[0]).toContain('no notice in the file');
  });
});

describe('Codes of a new tax year', () => {
  const after = (taxCode: string, basis = 'cumulative', entered: Record<string, string> = { L: '30', marks: 'drop' }) => {
    const changed = notices.general.apply({ taxCode, basis, category: 'A' }, entered);
    return changed && [changed['taxCode'], changed['basis'], changed['category']];
  };
  it('go up by what is added to their letter, with the nation before them', () => {
    expect([after('1257L'), after('S1257L'), after('C1257L')]).toEqual([
      ['1287L', 'cumulative', 'A'],
      ['S1287L', 'cumulative', 'A'],
      ['C1287L', 'cumulative', 'A'],
    ]);
  });
  it('stay where nothing is added, and lose their marks', () => {
    expect([after('1131N'), after('BR'), after('K100'), after('0T'), after('NT')]).toEqual(Array.from({ length: 5 }, () => undefined));
    expect([after('BR', 'week-1-month-1'), after('BR', 'week-1-month-1', { marks: 'keep' })]).toEqual([
      ['BR', 'cumulative', 'A'],
      undefined,
    ]);
  });
});
