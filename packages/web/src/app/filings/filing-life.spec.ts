import type { FilingView } from '@woodruff/contract';
import { filing } from '../../testing/filing';
import { part, refused } from '../../testing/part';
import { FilingLife } from './filing-life';

const happened = (step: 'prepared' | 'agreed' | 'sent' | 'accepted', words = '') => ({
  attempt: 1,
  step,
  on: '2026-10-12',
  who: 'Odile Marchetti',
  words,
});
const at = '/filings/941/2026-Q3';

describe('Where a filing stands', () => {
  const shown = (of: FilingView, role: 'clerk' | 'viewer' = 'clerk') => part(FilingLife, { filing: of }, { role });

  it('is prepared after it is said what that keeps', async () => {
    const one = await shown(filing());
    const taken = one.given(one.fixture.componentInstance.taken);
    expect(one.text).toContain('to prepare');
    await one.press('Prepare …');
    expect(one.text).toContain('Keeps the figures as they are now');
    await one.press('Prepare it');
    expect(await one.answer('POST', `${at}/prepared`, {})).toEqual({ reason: '' });
    expect(taken.length).toBe(1);
  });

  it('says why it can not be prepared, and keeps what was typed', async () => {
    const one = await shown(filing());
    await one.press('Prepare …');
    await one.press('Prepare it');
    await one.answer('POST', `${at}/prepared`, refused('Form 941 cannot be prepared: 1 check does not hold.'), 422);
    expect(one.text).toContain('1 check does not hold');
    expect((await shown(filing({ complete: false, state: 'not-due-yet' }))).text).toContain('when its period is over');
  });

  it('is agreed to under the name of whoever signs', async () => {
    const one = await shown(filing({ state: 'prepared', next: ['withdrawn', 'agreed'], events: [happened('prepared')] }));
    await one.press('Agree …');
    expect(one.text).toContain('I have looked at this return.');
    await one.press('I agree');
    expect(await one.answer('POST', `${at}/agreed`, {})).toEqual({ signer: 'Aurelia Quillmere', title: 'Managing director' });
  });

  it('is recorded as filed, then with what the agency answered', async () => {
    const agreed = await shown(filing({ state: 'agreed', next: ['withdrawn', 'sent'] }));
    await agreed.press('File …');
    await agreed.fill('Confirmation number', 'R-77');
    await agreed.press('Record as filed');
    expect(await agreed.answer('POST', `${at}/sent`, {})).toEqual({ how: 'portal', reference: 'R-77' });

    const sent = await shown(filing({ state: 'queued', next: ['received', 'accepted', 'rejected'], events: [happened('sent', 'Sent')] }));
    await sent.press('Record the answer …');
    await sent.fill('The agency', 'rejected');
    await sent.fill('Reasons given', 'Name does not match');
    await sent.press('Record the answer');
    expect(await sent.answer('POST', `${at}/answered`, {})).toEqual({
      answer: 'rejected',
      reference: '',
      reasons: 'Name does not match',
    });
  });

  it('shows each line that is not as it was filed, and amends with a reason', async () => {
    const differences = [{ line: '2', label: 'Wages', unit: 'money' as const, filed: 46_288_791, now: 46_093_791 }];
    const one = await shown(
      filing({ state: 'accepted', filed: { attempt: 1, on: '2026-10-12', because: '', amendUntil: null, corrected: [], differences } }),
    );
    expect(one.text).toContain('1 line is not as filed on 12 Oct 2026');
    expect(one.text).toContain('462,887.91 460,937.91');
    await one.press('Prepare …');
    await one.fill('Why it differs', 'Paid by mistake');
    await one.press('Prepare it');
    expect(await one.answer('POST', `${at}/prepared`, {})).toEqual({ reason: 'Paid by mistake' });
  });

  it('offers nothing where nothing differs, and nothing to who may only read', async () => {
    const accepted = await shown(
      filing({ state: 'accepted', filed: { attempt: 1, on: '2026-10-12', because: '', amendUntil: null, corrected: [], differences: [] } }),
    );
    expect(accepted.buttons()).toEqual([]);
    expect((await shown(filing(), 'viewer')).buttons()).toEqual([]);
  });
});
