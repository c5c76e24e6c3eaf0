import type { OpeningBalances, OpeningCheck, Person } from '@woodruff/contract';
import { part, type Part } from '../../testing/part';
import { PersonOpening } from './person-opening';

const PERSON = { id: 'ines', items: [{ code: 'health' }], rates: [{ per: 'hour' }] } as unknown as Person;
const OPENING: OpeningBalances = {
  items: [
    { code: 'ordinary', name: 'Ordinary hours', kind: 'earning' },
    { code: 'bonus', name: 'Bonus', kind: 'earning' },
    { code: 'health', name: 'Health premium', kind: 'deduction' },
    { code: 'match', name: 'Match', kind: 'employer-contribution' },
  ],
  taxes: [{ code: 'us.oasdi', label: 'Social security' }],
  entered: [
    { paidUntil: '2026-06-30', payslipId: 'slip', amounts: { ordinary: 1_000_000, 'us.oasdi': 62_000, 'us.oasdi.wages': 1_000_000 } },
  ],
};
const CHECK: OpeningCheck = {
  totals: { gross: 1_000_000, taxes: 62_000, deductions: 0, net: 938_000 },
  bases: [{ code: 'us.oasdi.wages', label: 'Social security wages', amount: 1_000_000 }],
  employerTaxes: [],
  checks: [],
};

describe('What an earlier system paid', () => {
  let shown: Part<PersonOpening>;

  async function opening(): Promise<void> {
    shown = await part(PersonOpening, { person: PERSON });
    await shown.answer('GET', '/opening', OPENING);
  }
  const checked = async (check: OpeningCheck) => {
    await new Promise((done) => setTimeout(done, 350));
    await shown.settle();
    return shown.answer('POST', '/opening/check', check);
  };
  const fillIn = async (code: string, amount: string) => {
    const field = shown.element.querySelector<HTMLInputElement>(`#opening-${CSS.escape(code)}`)!;
    field.value = amount;
    field.dispatchEvent(new Event('input'));
    await shown.settle();
  };

  it('is told with its gross and its taxes', async () => {
    await opening();
    expect(shown.text).toContain('Paid until Tue 30 Jun 2026 gross 10,000.00 taxes 620.00');
  });

  it('is entered for the quarter before: pay, own items and taxes first, others when chosen', async () => {
    await opening();
    await shown.press('Enter what was paid');
    expect(shown.field('Paid until').value).toBe('2026-09-30');
    const labels = () => [...shown.element.querySelectorAll('.entries label')].map((one) => one.textContent);
    expect(labels()).toEqual(['Ordinary hours', 'Health premium', 'Social security']);
    await shown.fill('Another item', 'match');
    expect(labels()).toEqual(['Ordinary hours', 'Health premium', 'Social security', 'Match']);
  });

  it('is calculated while it is entered, and posted once it ties out', async () => {
    await opening();
    await shown.press('Enter what was paid');
    expect(shown.button('Post what was paid').disabled).toBeTrue();
    await fillIn('ordinary', '10,000');
    await fillIn('us.oasdi', '620.00');
    expect(await checked(CHECK)).toEqual({ paidUntil: '2026-09-30', amounts: { ordinary: '10000', 'us.oasdi': '620.00' } });
    expect(shown.text).toContain('It ties out');
    expect(shown.text).toContain('Social security wages 10,000.00');
    await shown.press('Post what was paid');
    expect(await shown.answer('PUT', '/opening', {})).toEqual(jasmine.objectContaining({ acceptDifferences: false }));
    await shown.answer('GET', '/opening', OPENING);
    expect(shown.buttons()).toContain('Enter what was paid');
  });

  it('that does not tie out is posted only once that is accepted', async () => {
    await opening();
    await shown.press('Enter what was paid');
    await fillIn('ordinary', '10000');
    await checked({ ...CHECK, checks: ['Social security was 600.00, and the rate on the pay entered gives 620.00.'] });
    expect(shown.text).toContain('the rate on the pay entered gives 620.00');
    expect(shown.button('Post what was paid').disabled).toBeTrue();
    shown.element.querySelector<HTMLInputElement>('input[name=accept]')!.click();
    await shown.settle();
    await shown.press('Post what was paid');
    expect(await shown.answer('PUT', '/opening', {})).toEqual(jasmine.objectContaining({ acceptDifferences: true }));
  });

  it('is entered again from what stands there, without what only counts', async () => {
    await opening();
    await shown.press('Enter it again');
    expect(shown.field('Paid until').value).toBe('2026-06-30');
    expect(shown.element.querySelector<HTMLInputElement>('#opening-ordinary')?.value).toBe('10000.00');
    expect(await checked(CHECK)).toEqual({ paidUntil: '2026-06-30', amounts: { ordinary: '10000.00', 'us.oasdi': '620.00' } });
  });
});
