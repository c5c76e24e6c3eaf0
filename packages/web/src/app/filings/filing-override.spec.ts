import { filing } from '../../testing/filing';
import { part, refused } from '../../testing/part';
import { AgencyPage } from './agency-page';
import { FilingLife } from './filing-life';
import { FilingOverride } from './filing-override';
import { agencyStore } from './filings.store';

const LINE = { line: '1', label: 'Employees', amount: 34, unit: 'count' as const, codes: [], working: '' };
const at = '/filings/941/2026-Q3';

describe('A line that is overridden', () => {
  it('takes another amount with a reason, in the unit of the line; a refusal keeps what was typed', async () => {
    const one = await part(FilingOverride, { filing: filing(), line: LINE });
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.fill('Line 1 is', '36');
    await one.press('Override line 1');
    expect(await one.answer('POST', `${at}/entered`, refused('Say why.'), 400)).toEqual({ line: '1', amount: '36', reason: '' });
    expect(one.text).toContain('Say why.');
    await one.fill('Why', 'Two were paid by the agent');
    await one.press('Override line 1');
    expect(await one.answer('POST', `${at}/entered`, {})).toEqual({ line: '1', amount: '36', reason: 'Two were paid by the agent' });
    expect(saved.length).toBe(1);
  });

  it('is as computed again where that is wanted', async () => {
    const line = { ...LINE, amount: 36, replaced: { amount: 34, reason: 'Two were paid by the agent' } };
    const one = await part(FilingOverride, { filing: filing(), line });
    await one.press('As computed again: 34');
    expect(await one.answer('POST', `${at}/entered`, {})).toEqual({ line: '1', amount: null, reason: 'Two were paid by the agent' });
  });
});

describe('A filing that goes by file', () => {
  const agreed = (more: Parameters<typeof filing>[0] = {}) =>
    filing({ state: 'agreed', next: ['withdrawn', 'sent'], file: { format: 'XML', wants: [] }, ...more });

  it('is sent with what is left to pay, by a consent of its own', async () => {
    const one = await part(FilingLife, { filing: agreed({ balance: 125_00 }) });
    await one.press('File …');
    expect(one.text).not.toContain('I consent');
    await one.fill('Pay 125.00', true);
    expect(one.text).toContain('I consent to the payment of 125.00');
    await one.fill('Name', 'Aurelia Quillmere');
    await one.press('Send it');
    expect(await one.answer('POST', `${at}/sent`, {})).toEqual({ how: 'file', pays: true, consent: 'Aurelia Quillmere' });
  });

  it('says what is missing before the first one, each with the way to it', async () => {
    const wants = [{ sentence: "The signer's PIN", part: 'registrations' }];
    const one = await part(FilingLife, { filing: agreed({ file: { format: 'XML', wants } }) });
    await one.press('File …');
    expect(one.element.querySelector('.notice a')?.getAttribute('href')).toBe('/employer#registrations');
  });

  it('names why the agency rejected it', async () => {
    const faults = [{ code: 'NAME', text: 'the number belongs to another name' }];
    const one = await part(FilingLife, { filing: filing({ state: 'rejected', next: ['prepared'], faults }) });
    expect(one.text).toContain('NAME: the number belongs to another name');
    expect(one.buttons()).toContain('Prepare …');
  });
});

describe('The stand-in for the agencies', () => {
  it('shows what it was handed, and is told how to answer', async () => {
    const data = {
      answersAfter: 0,
      doubles: false,
      loses: false,
      knownAs: '',
      files: [
        {
          agency: 'IRS',
          name: '941-2026-Q3.xml',
          on: '2026-10-26',
          number: '26102600000001',
          status: 'rejected',
          faults: [{ code: 'NAME', text: 'another name' }],
        },
      ],
    };
    const one = await part(
      AgencyPage,
      {},
      { role: 'administrator', stores: [agencyStore as never], arrives: [agencyStore.loaded({ data })] },
    );
    expect(one.text).toContain('NAME: another name');
    await one.fill('Days until an answer', '3');
    await one.fill('Everything is said twice', true);
    await one.press('Set it');
    expect(await one.answer('PUT', '/filings/agency', {})).toEqual({ answersAfter: 3, doubles: true, loses: false, knownAs: '' });
  });
});
