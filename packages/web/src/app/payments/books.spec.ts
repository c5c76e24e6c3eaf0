import type { AccrualView, AccountMap, CostByDay, Funding, TaxGrid } from '@woodruff/contract';
import { part } from '../../testing/part';
import { AccountsPage } from './accounts-page';
import { AccrualsPage } from './accruals-page';
import { CostsPage } from './costs-page';
import { EmployerTaxesPage } from './employer-taxes-page';
import { FundingPage } from './funding-page';
import { accountMapStore, accrualStore, costsStore, fundingStore, runJournalStore, taxGridStore } from './payments.store';
import { RunJournalPage } from './run-journal-page';

const LINE = { side: 'expense' as const, words: 'Wages', department: 'Furnace', owed: '', payslipId: null };

describe("A month's end", () => {
  const accrual: AccrualView = {
    end: '2026-10-31',
    over: true,
    accruals: 'month',
    leaveOwed: true,
    parts: [
      {
        runId: 'r1',
        from: '2026-10-25',
        to: '2026-11-07',
        payDate: '2026-11-13',
        state: 'approved',
        days: 5,
        ofDays: 10,
        cost: 100_000,
        accrued: 50_000,
      },
    ],
    total: 50_000,
    leave: [{ personId: 'p1', name: 'Ada Kiln', plan: 'Vacation', hours: 1_200, hourly: null, amount: 0 }],
    lines: [{ ...LINE, account: '6010', amount: 50_000 }],
    posted: 0,
    toPost: true,
  };

  it('says of which work how much is accrued, and posts it with its reversal', async () => {
    const one = await part(
      AccrualsPage,
      {},
      { role: 'administrator', stores: [accrualStore as never], arrives: [accrualStore.loaded({ data: accrual })] },
    );
    expect(one.text).toContain('5 of 10');
    expect(one.text).toContain('◇ no hours of a period on file');
    await one.press('Post it, and its reversal on the next day');
    expect(await one.answer('POST', '/journal/accrual', { entries: 2 })).toEqual({ end: '2026-10-31' });
    expect(one.text).toContain('with its reversal on the next day');
  });

  it('has nothing to press while the month runs, or where nothing differs', async () => {
    const one = await part(
      AccrualsPage,
      {},
      { role: 'administrator', stores: [accrualStore as never], arrives: [accrualStore.loaded({ data: { ...accrual, over: false } })] },
    );
    expect(one.text).not.toContain('Post it');
    expect(one.text).toContain('the month is not over');
  });
});

describe('Taxes of the employer', () => {
  const months = (november: number, difference = 0) =>
    Array.from({ length: 12 }, (_, index) =>
      index === 10 ? { computed: november, difference, total: november + difference } : { computed: 0, difference: 0, total: 0 },
    );
  const grid: TaxGrid = {
    year: 2026,
    rows: [
      { code: 'us.unemployment@US-PA', label: 'Pennsylvania unemployment', place: 'PA', months: months(10_000, 125), total: 10_125 },
      { code: 'us.futa', label: 'Federal unemployment', place: '', months: months(2_000), total: 2_000 },
    ],
    entered: [{ code: 'us.unemployment@US-PA', month: 11, amount: 125, reason: 'By the notice', who: 'O. Marchetti', on: '2026-11-20' }],
    reckoned: [],
  };

  it('show what differs with its reason, and take a total with another', async () => {
    const one = await part(
      EmployerTaxesPage,
      {},
      { role: 'administrator', stores: [taxGridStore as never], arrives: [taxGridStore.loaded({ data: grid })] },
    );
    expect(one.text).toContain('By the notice');
    expect(one.text).toContain('+1.25');
    await one.press('Federal unemployment, Nov');
    await one.fill('It comes to', '1,020.50');
    await one.fill('Why', 'The rate of the notice');
    await one.press('Enter the difference');
    expect(await one.answer('POST', '/employer-taxes', { difference: 100 })).toEqual({
      code: 'us.futa',
      month: '2026-11',
      total: '1020.50',
      reason: 'The rate of the notice',
    });
  });
});

describe("What an employer reckons out of everybody's pay", () => {
  it('stands with its month and opens to how it came about', async () => {
    const working = {
      key: 'a.levy',
      label: 'A levy',
      amount: '250.00',
      unit: 'money' as const,
      steps: [],
      sources: [],
      notes: [],
      facts: [],
    };
    const levy = { code: 'a.levy', label: 'A levy', period: 'month 1', on: '2026-04-30', amount: 25_000, workings: { 'a.levy': working } };
    const grid: TaxGrid = { year: 2026, rows: [], entered: [], reckoned: [levy, { ...levy, amount: -25_000, workings: {} }] };
    const one = await part(
      EmployerTaxesPage,
      {},
      { role: 'administrator', stores: [taxGridStore as never], arrives: [taxGridStore.loaded({ data: grid })] },
    );
    expect(one.text).toContain('A levy month 1 30 Apr 2026 +250.00');
    await one.press('A levy, month 1');
    expect(one.element.querySelector('wr-figure-working')).not.toBeNull();
    await one.press('A levy, month 1');
    expect(one.element.querySelector('wr-figure-working')).toBeNull();
  });
});

describe('Cost by day worked', () => {
  it('leaves out days on which nothing was worked', async () => {
    const costs: CostByDay = {
      from: '2026-11-13',
      to: '2026-11-15',
      days: ['2026-11-13', '2026-11-14', '2026-11-15'],
      departments: [
        { department: 'Furnace', amounts: [1_000, 0, 0], total: 1_000 },
        { department: '', amounts: [500, 0, 250], total: 750 },
      ],
    };
    const one = await part(CostsPage, {}, { stores: [costsStore as never], arrives: [costsStore.loaded({ data: costs })] });
    expect([...one.element.querySelectorAll('th')].map((cell) => cell.textContent.replace(/\s+/g, ' ').trim())).toEqual([
      'Department',
      'Together',
      'Fri13 Nov',
      'Sun15 Nov',
    ]);
    expect(one.text).toContain('no department');
    expect(one.text).toContain('17.50');
  });
});

describe('Where it is posted', () => {
  it('is set by position and group, and an entry is made for each payslip from now on', async () => {
    const map: AccountMap = {
      by: 'run',
      accruals: 'none',
      leaveOwed: false,
      departments: ['Furnace'],
      worksites: [],
      jobs: ['Blower'],
      groups: ['Seasonal'],
      targets: [{ side: 'expense', code: 'ordinary', label: 'Ordinary pay', account: '6010', from: 'item' }],
      rules: [{ side: 'expense', code: '', department: 'Furnace', worksite: '', job: 'Blower', group: '', account: '6020' }],
      missing: 0,
    };
    const one = await part(
      AccountsPage,
      {},
      { role: 'administrator', stores: [accountMapStore as never], arrives: [accountMapStore.loaded({ data: map })] },
    );
    expect(one.text).toContain('Blower, Furnace');
    await one.press('Set the account of Ordinary pay');
    await one.fill('of position', 'Blower');
    await one.fill('of group', 'Seasonal');
    await one.press('Set the account');
    expect(await one.answer('PUT', '/journal/accounts', {})).toEqual(
      jasmine.objectContaining({ code: 'ordinary', job: 'Blower', group: 'Seasonal', account: '6010' }),
    );
    await one.fill('An entry for', 'payslip');
    await one.press('Post so from now on');
    expect(await one.answer('PUT', '/journal/settings', {})).toEqual({ by: 'payslip', accruals: 'none', leaveOwed: false });
  });
});

describe('Funding', () => {
  const funding: Funding = {
    until: '2026-12-23',
    accounts: [
      { id: null, name: 'Tidewater Savings', last4: '0144', balance: 10_000, on: '2026-11-20' },
      { id: 'a2', name: 'Harbour Mutual', last4: '0199', balance: null, on: null },
    ],
    days: [
      { date: '2026-11-25', payingAccountId: null, what: 'Net pay', amount: 12_500, expected: false, left: -2_500, link: '/payments' },
      { date: '2026-11-27', payingAccountId: 'a2', what: 'Deposit', amount: 700, expected: true, left: null, link: '/payments' },
    ],
  };

  it('is of one account at a time, with a calendar of whole weeks and a warning where it runs short', async () => {
    const one = await part(FundingPage, {}, { stores: [fundingStore as never], arrives: [fundingStore.loaded({ data: funding })] });
    expect(one.text).toContain('it lacks 25.00 then');
    const cells = [...one.element.querySelectorAll('.calendar td')].map((cell) => cell.textContent?.replace(/\s+/g, ' ').trim());
    expect(cells.length % 7).toBe(0);
    expect(cells.some((cell) => cell?.includes('25 Nov 2026') && cell.includes('−125.00'))).toBeTrue();
    expect(one.text).not.toContain('Deposit');
    const [, second] = [...one.field('Account').querySelectorAll('option')];
    await one.fill('Account', second?.value ?? '');
    expect(one.text).toContain('Deposit');
    expect(one.text).toContain('is not known: no statement yet');
  });
});

describe('What a run posts', () => {
  it('stands in debit and credit, and names what has no account', async () => {
    const lines = [
      { ...LINE, account: '6010', amount: 10_000 },
      { ...LINE, side: 'liability' as const, account: 'Deductions (no account)', amount: -10_000 },
    ];
    const one = await part(
      RunJournalPage,
      { id: 'r1' },
      { stores: [runJournalStore as never], arrives: [runJournalStore.loaded({ data: lines })] },
    );
    expect(one.text).toContain('1 of these lines have no account');
    expect(one.text.match(/100\.00/g)?.length).toBe(4);
  });
});
