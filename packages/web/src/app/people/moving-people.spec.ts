import type { Effect, GroupEffect, PersonRow } from '@woodruff/contract';
import { of, throwError, type Observable } from 'rxjs';
import { part } from '../../testing/part';
import { MovingPeople, type Move } from './moving-people';
import { peopleStore } from './people.store';

const person = (id: string, name: string, left: string | null = null) => ({ id, name, job: 'Blower', left }) as unknown as PersonRow;
const people = [person('i', 'Ines Halloway'), person('n', 'Nils Penhallow'), person('g', 'Gone Before', '2026-03-31')];
const AROUND = { stores: [peopleStore as never], arrives: [peopleStore.loaded({ data: people })] };
const runs: Effect = { runs: [], people: [], unchanged: 2 };

async function moving(save: () => Observable<unknown> = () => of({})) {
  const moves: Move[] = [];
  const shown = await part(
    MovingPeople,
    {
      verb: 'Put in',
      label: 'People to put in',
      except: new Set(['n']),
      mover: {
        look: (move) => {
          moves.push(move);
          return of({ runs });
        },
        save: (move) => {
          moves.push(move);
          return save();
        },
      },
    },
    AROUND,
  );
  return { shown, moves };
}

describe('Moving people', () => {
  it('offers who is here on the day and not in it already', async () => {
    const { shown } = await moving();
    expect(shown.text).toContain('Ines Halloway');
    expect(shown.text).not.toContain('Nils Penhallow');
    expect(shown.text).not.toContain('Gone Before');
    await shown.fill('From', '2026-02-01');
    expect(shown.text).toContain('Gone Before');
  });

  it('is shown before it is saved, and shown anew once another day is given', async () => {
    const { shown, moves } = await moving();
    const moved = shown.given(shown.fixture.componentInstance.moved);
    expect(shown.button('Show what it changes').disabled).toBeTrue();
    shown.element.querySelector<HTMLInputElement>('[role=group] input')!.click();
    await shown.settle();
    await shown.press('Show what it changes');
    expect(shown.text).toContain('No payslip in the open runs changes.');
    await shown.fill('From', '2026-12-01');
    expect(shown.buttons()).not.toContain('Put in 1 person');
    await shown.press('Show what it changes');
    await shown.press('Put in 1 person');
    expect(moves.map((move) => [move.personIds, move.from])).toEqual([
      [['i'], '2026-11-23'],
      [['i'], '2026-12-01'],
      [['i'], '2026-12-01'],
    ]);
    expect(moved.length).toBe(1);
  });

  it('keeps who was chosen when it is refused', async () => {
    const { shown } = await moving(() => throwError(() => new Error('no answer')));
    const moved = shown.given(shown.fixture.componentInstance.moved);
    shown.element.querySelector<HTMLInputElement>('[role=group] input')!.click();
    await shown.settle();
    await shown.press('Show what it changes');
    await shown.press('Put in 1 person');
    expect(moved.length).toBe(0);
    expect(shown.text).toContain('1 chosen');
    expect(shown.element.querySelector('wr-problem')?.textContent.trim()).not.toBe('');
  });

  it('shows what the group supplies, where there is a group', async () => {
    const group: GroupEffect = { follow: [{ personId: 'i', name: 'Ines Halloway', what: ['80 hours'] }], keep: [] };
    const shown = await part(
      MovingPeople,
      { verb: 'Move', where: 'to Glassworkers', label: 'People', mover: { look: () => of({ runs, group }), save: () => of({}) } },
      AROUND,
    );
    shown.element.querySelector<HTMLInputElement>('[role=group] input')!.click();
    await shown.settle();
    await shown.press('Show what it changes');
    expect(shown.text).toContain('One person takes this over: Ines Halloway 80 hours');
    expect(shown.buttons()).toContain('Move 1 person to Glassworkers');
  });
});
