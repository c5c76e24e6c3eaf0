import { TestBed } from '@angular/core/testing';
import { Keys } from './keys';

describe('Keys', () => {
  const press = (key: string, target: EventTarget = document, more: KeyboardEventInit = {}) =>
    target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }));

  it('run what the page gave them, in one stroke or after g, and not while somebody types', () => {
    const keys = TestBed.inject(Keys);
    const done: string[] = [];
    const takeBack = keys.add(
      { keys: 'n', label: 'New', run: () => done.push('n') },
      { keys: 'g p', label: 'People', run: () => done.push('g p') },
      { keys: 'Ctrl+Enter', label: 'Main action', run: () => done.push('main') },
    );
    const box = document.body.appendChild(document.createElement('input'));
    press('n', document.body);
    press('n', box);
    press('g', document.body);
    press('p', document.body);
    press('Enter', box, { ctrlKey: true });
    expect(done).toEqual(['n', 'g p', 'main']);
    takeBack();
    press('n', document.body);
    expect(done.length).toBe(3);
    box.remove();
  });
});
