import type { TodayView } from '@woodruff/contract';
import { part } from '../../testing/part';
import { runFeature } from '../pay-runs/pay-runs.store';
import { Today } from './today';
import { todayStore } from './today.store';

const TODAY: TodayView = {
  today: '2026-11-23',
  proposals: [],
  open: [],
  oneOffs: 0,
  asked: { leave: 0, time: [] },
  due: [],
  unfinished: { count: 0, first: [] },
  coming: [],
  costs: [],
};
const PROPOSAL = {
  scheduleId: 's',
  schedule: 'Fortnightly',
  from: '2026-11-08',
  to: '2026-11-21',
  payDate: '2026-11-27',
  approveBy: '2026-11-25',
  people: 22,
};

describe('Today', () => {
  const shown = (more: Partial<TodayView>, role: 'clerk' | 'viewer' = 'clerk') =>
    part(
      Today,
      {},
      {
        role,
        stores: [todayStore as never, runFeature as never],
        arrives: [todayStore.loaded({ data: { ...TODAY, ...more } })],
      },
    );

  it('says what is waiting, and starts the run that is due', async () => {
    const one = await shown({
      proposals: [PROPOSAL],
      unfinished: { count: 1, first: [{ personId: 'p', name: 'Hartnoll, Solveig', missing: ['No tax details', 'No national number'] }] },
    });
    expect(one.text).toContain('One pay run is waiting, 1 record is unfinished');
    expect(one.text).toContain('22 people, approve by Wed 25 Nov 2026');
    expect(one.text).toContain('No tax details, no national number');
    expect(one.buttons()).toContain('Start this run');
  });

  it('lists what people asked for and nobody answered, each leading to where it is answered', async () => {
    const one = await shown({
      oneOffs: 2,
      asked: { leave: 1, time: [{ scheduleId: 's', from: '2026-11-08', to: '2026-11-21', changes: 3 }] },
    });
    expect(one.text).toContain('2 one-offs');
    expect(one.text).toContain('One request for leave');
    const link = [...one.element.querySelectorAll('a')].find((candidate) => candidate.textContent.includes('of time'));
    expect(link?.textContent.trim()).toBe('3 changes of time asked for, 8 – 21 Nov 2026');
    expect(link?.getAttribute('href')).toBe('/time?schedule=s&from=2026-11-08');
  });

  it('of a new employer leads to what is missing, and is calm about the rest', async () => {
    const one = await shown({});
    expect(one.text).toContain('No run is waiting. What is missing before the first run');
    expect(one.text).toContain('Nothing is due in the next ten weeks.');
    expect(one.text).toContain('Every record is complete.');
    expect(one.text).not.toContain('Waiting for an answer');
  });

  it('starts nothing for who may only read', async () => {
    expect((await shown({ proposals: [PROPOSAL] }, 'viewer')).buttons()).not.toContain('Start this run');
  });
});
