import { part } from '../../testing/part';
import { RegistrationField } from './registration-field';

describe('A registration', () => {
  const shown = (field: object, value: string | boolean = '', fault?: string) =>
    part(RegistrationField, { field: { key: 'one', label: 'A registration', kind: 'text', ...field } as never, name: 'one', value, fault });

  it('that holds or not is a box to tick, and stays what it is', async () => {
    const one = await shown({ kind: 'yes-no' }, true);
    const given = one.given(one.fixture.componentInstance.entered);
    expect(one.field('A registration').checked).toBeTrue();
    await one.fill('A registration', false);
    expect(given).toEqual([false]);
  });

  it('is a text, a day or a choice by its kind', async () => {
    expect((await shown({}, '123')).field('A registration').value).toBe('123');
    expect((await shown({ kind: 'date' }, '2026-11-23')).field('A registration').type).toBe('date');
    const one = await shown({ kind: 'choice', choices: [{ value: 'a', label: 'The first' }] }, 'a');
    const given = one.given(one.fixture.componentInstance.entered);
    expect(one.text).toContain('The first');
    await one.fill('A registration', '');
    expect(given).toEqual(['']);
  });

  it('says what is expected where it cannot be', async () => {
    expect((await shown({}, 'x', 'eleven figures')).text).toContain('Expected eleven figures');
  });
});
