import { packOf } from '../registry';

describe('Final pay', () => {
  const by = (kind: string, workState: string) => {
    const due = packOf('US').leaving.finalPayBy(kind, '2026-11-20', { workState });
    return due && `${due.by} ${due.words}`;
  };
  // Labor Code 201 and 202; Texas Labor Code 61.014.
  it('is due by the law of the state of work', () => {
    expect(by('dismissed', 'CA')).toBe('2026-11-20 on the last day of a discharge');
    expect(by('resigned', 'CA')).toBe('2026-11-23 within 3 days of a resignation');
    expect(by('laid-off', 'TX')).toBe('2026-11-26 within 6 days of a discharge');
  });
  it('can wait for the next regular pay date elsewhere', () => {
    expect(by('resigned', 'TX')).toBeUndefined();
    expect(by('dismissed', 'PA')).toBeUndefined();
    expect(by('dismissed', '')).toBeUndefined();
  });
  it('goes by the stricter rule while it is not known how it ends', () => expect(by('', 'TX')).toContain('2026-11-26'));
});
