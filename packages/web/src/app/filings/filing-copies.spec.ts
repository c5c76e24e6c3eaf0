import { filing } from '../../testing/filing';
import { part } from '../../testing/part';
import { FilingCopies } from './filing-copies';

const copy = (personId: string, name: string, checks: { code: string; weight: 'stop'; sentence: string }[] = []) => ({
  personId,
  name,
  number: checks.length ? null : '•••-••-6708',
  to: [],
  control: null,
  boxes: [
    { box: '1', label: 'Wages', amount: 4_758_600, codes: ['us.fit.wages'] },
    { box: '12 D', label: 'Deferrals', amount: 648_900, codes: ['us.box12.D'] },
  ],
  marks: [{ box: '13 plan', label: 'Retirement plan', text: 'X' }],
  checks,
});

describe("People's copies", () => {
  const missing = { code: 'number-missing', weight: 'stop' as const, sentence: 'Vera Lindqvist has no number on file.' };
  const shown = () =>
    part(FilingCopies, {
      filing: filing({
        filing: 'w-2',
        copyOf: { name: 'Form W-2', first: ['1'], corrected: null, totals: null, some: false, marks: [] },
        copies: [copy('a', 'Abernethy, Lucian'), copy('b', 'Lindqvist, Vera', [missing])],
      }),
    });

  it('list the first boxes of everybody, and those with something to fix', async () => {
    const one = await shown();
    expect(one.text).toContain('Everyone 2 To fix 1');
    await one.press('To fix 1');
    expect(one.text).toContain('Lindqvist, Vera missing 47,586.00');
    expect(one.text).not.toContain('Abernethy');
  });

  it('open to all boxes of one, with what is wrong and the way there', async () => {
    const one = await shown();
    await one.press('Lindqvist, Vera');
    expect(one.text).toContain('has no number on file');
    expect(one.text).toContain('12 D Deferrals 6,489.00 13 plan Retirement plan X');
    expect(one.element.querySelector<HTMLAnchorElement>('a[href="/people/b"]')).not.toBeNull();
  });

  it('open a box to its payslips', async () => {
    const one = await shown();
    const opened = one.given(one.fixture.componentInstance.opened);
    one.element.querySelectorAll<HTMLButtonElement>('td.num button')[0]?.click();
    expect(opened.map(({ copy: of, box }) => [of.personId, box.codes])).toEqual([['a', ['us.fit.wages']]]);
  });
});
