import type { Copy } from '@woodruff/contract';
import { part } from '../../testing/part';
import { HeldBack } from './held-back';

const copy = (personId: string, name: string, stopped = false): Copy => ({
  personId,
  name,
  number: null,
  to: [],
  control: null,
  boxes: [],
  marks: [],
  checks: stopped ? [{ code: 'number', weight: 'stop', sentence: 'No number is on file' }] : [],
});
const COPIES = [copy('a', 'Adeyemi, Fergus'), copy('b', 'Brannigan, Aoife'), copy('n', 'Nightingale, Bram', true)];

describe('Whom a filing is prepared for', () => {
  const shown = () => part(HeldBack, { copies: COPIES });

  it('is everybody who is ready; who has something to be fixed is named and held back', async () => {
    const one = await shown();
    expect(one.text).toContain('2 statements are prepared, 1 person is held back and can follow later.');
    expect(one.text).toContain('Until it is fixed, under “To fix”: Nightingale, Bram.');
    expect(one.fixture.componentInstance.without()).toEqual([]);
  });

  it('is all but those chosen, or only these, and can be taken back', async () => {
    const one = await shown();
    await one.fill('For', 'without');
    await one.fill('Without', 'a');
    expect(one.fixture.componentInstance.without()).toEqual(['a']);
    expect(one.text).toContain('1 statement is prepared, 2 people are held back');
    await one.fill('For', 'only');
    expect(one.fixture.componentInstance.without()).toEqual(['b']);
    await one.press('Take Adeyemi, Fergus off');
    expect(one.text).toContain('0 statements are prepared');
    await one.fill('For', 'everybody');
    expect(one.fixture.componentInstance.without()).toEqual([]);
  });
});
