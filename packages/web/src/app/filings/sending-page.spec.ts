import { part, refused } from '../../testing/part';
import { SendingPage } from './sending-page';

const period = (key: string, state: string) => ({
  key,
  label: `quarter ${key.slice(-1)} of 2026`,
  from: '2026-07-01',
  to: '2026-09-30',
  due: '2026-11-02',
  taxYear: '2026',
  state,
  differs: 0,
});

describe('What waits to be sent', () => {
  const shown = async () => {
    const one = await part(SendingPage, {}, { role: 'administrator' });
    const periods = [period('2026-Q3', 'agreed'), period('2026-Q2', 'agreed'), period('2026-Q1', 'accepted')];
    await one.answer('GET', '/filings', [
      { filing: '941', form: 'Form 941', name: 'Return', agency: 'Internal Revenue Service', place: '', together: '', periods },
    ]);
    return one;
  };

  it('is what was agreed to, at every employer', async () => {
    const one = await shown();
    expect(one.text).toContain('Works Form 941, quarter 3 of 2026');
    expect(one.text).not.toContain('quarter 1 of 2026');
    expect(one.buttons()).toContain('Send 2 by file');
  });

  it('goes one after another, and what is refused keeps no other one waiting', async () => {
    const one = await shown();
    await one.press('Send 2 by file');
    await one.answer('POST', '/filings/941/2026-Q3/sent', refused('The PIN is missing.'), 422);
    await one.settle();
    await one.answer('POST', '/filings/941/2026-Q2/sent', {});
    await one.settle();
    expect(one.text).toContain('The PIN is missing.');
    expect(one.text).toContain('sent');
  });

  it('goes as one file where two employers have one number: the parts first, then the file that they go along with', async () => {
    const one = await part(SendingPage, {}, { role: 'administrator', alsoAt: [{ id: 's', name: 'Shop' }] });
    const list = [
      { filing: 'w-2', form: 'Form W-2', name: '', agency: 'SSA', place: '', together: '00-1', periods: [period('2026', 'agreed')] },
    ];
    await one.answer('GET', '/e/filings', list);
    await one.answer('GET', '/s/filings', list);
    expect(one.text).toContain('Works, Shop have one number and go as one file.');
    await one.press('Send 2 by file');
    expect(await one.answer('POST', '/s/filings/w-2/2026/sent', {})).toEqual({ how: 'file', along: 'e' });
    await one.settle();
    expect(await one.answer('POST', '/e/filings/w-2/2026/sent', {})).toEqual({ how: 'file' });
    await one.settle();
    expect(one.text).toContain('sent with Works');
  });

  it('can be taken back before', async () => {
    const one = await shown();
    await one.press('Take back Form 941, quarter 3 of 2026, Works');
    expect(await one.answer('POST', '/filings/941/2026-Q3/withdrawn', {})).toEqual({ reason: 'Taken back before it was sent' });
    await one.settle();
    expect(one.text).toContain('taken back');
    expect(one.buttons()).toContain('Send 1 by file');
  });

  it('says so when it is nothing', async () => {
    const one = await part(SendingPage, {}, { role: 'administrator' });
    await one.answer('GET', '/filings', []);
    expect(one.text).toContain('Nothing waits.');
  });
});
