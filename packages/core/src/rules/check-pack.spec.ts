import { checkPack } from './check-pack';
import type { ParameterEntry } from './parameters';
import { packOf } from './registry';
import { entries as ofGb } from './GB/tables';
import { entries as ofUs } from './US/tables';

const entry = (more: Partial<ParameterEntry>): ParameterEntry => ({
  code: 'x.rate',
  from: '2026-01-01',
  to: '2026-12-31',
  value: '1',
  publication: 'A publication',
  confirmed: true,
  ...more,
});
const faults = (...entries: ParameterEntry[]) => checkPack(packOf('US'), { entries, examples: [] }).faults;

describe('The check of a pack', () => {
  it('finds nothing wrong with those that are in', () => {
    expect(checkPack(packOf('US'), { entries: ofUs, examples: [] }).faults).toEqual([]);
    expect(checkPack(packOf('GB'), { entries: ofGb, examples: [] }).faults).toEqual([]);
  });

  it('finds a gap and an overlap between two entries, and one that never ends', () => {
    expect(faults(entry({ to: '2026-06-30' }), entry({ from: '2026-07-02' }))).toEqual([
      'x.rate: none holds from 2026-07-01 to 2026-07-01',
    ]);
    expect(faults(entry({}), entry({ from: '2026-12-31', to: '2027-12-31' }))).toEqual(['x.rate: two hold on 2026-12-31']);
    const endless = entry({});
    delete endless.to;
    expect(faults(endless, entry({ from: '2027-01-01', to: '2027-12-31' }))[0]).toContain('it has no end');
    expect(faults(entry({ to: '2025-12-31' }))[0]).toContain('ends before it begins');
  });

  it('finds bands that overlap, a base that belongs to another schedule, a figure without source, a place nobody knows', () => {
    const bands = [
      { over: '0', percent: '10', base: '0' },
      { over: '1000', percent: '20', base: '100' },
    ];
    const schedule = (more: Partial<ParameterEntry>) => {
      const made = entry({ bands, ...more });
      delete made.value;
      return made;
    };
    expect(faults(schedule({}))).toEqual([]);
    expect(faults(schedule({ bands: [...bands, { over: '900', percent: '30' }] }))[0]).toContain('overlaps the one before it');
    expect(faults(schedule({ bands: [bands[0]!, { ...bands[1]!, base: '120' }] }))[0]).toContain(
      'is not what the bands below come to, 100.00',
    );
    expect(faults(entry({ publication: '' }))[0]).toContain('no publication');
    expect(faults(entry({ code: 'x.rate@US-ZZ' }))).toEqual(['US-ZZ: figures of a place that no rule names']);
  });

  it('says what no example reaches', () => {
    const { lacking } = checkPack(packOf('GB'), { entries: ofGb, examples: [] });
    expect(lacking).toContain('no example has an item with the treatment pension-net-pay');
    expect(lacking).toContain('no example counts for gb.ni.earnings');
    const bare = { ...packOf('GB'), filings: () => [], whole: false };
    const { lacking: still } = checkPack(bare, { entries: ofGb, examples: [] });
    expect(still).toContain('no filings');
    expect(still).toContain('the pack says itself that it is not whole');
  });
});
