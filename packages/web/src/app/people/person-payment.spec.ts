import type { Person } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { PersonPayment } from './person-payment';

const account = (id: string, more: object = {}) => ({
  id,
  bank: '123456780',
  shown: '••••3333',
  kind: 'checking',
  by: 'remainder',
  value: null,
  trial: null,
  ofLastNet: 150_000,
  ...more,
});
const person = (payment: object | null) => ({ id: 'p', payment }) as unknown as Person;
const deposits = (...accounts: object[]) => person({ method: 'deposit', shown: '', accounts });

describe('How a person is paid', () => {
  it('shows each account with what it gets of the latest net', async () => {
    const { text } = await part(PersonPayment, {
      person: deposits(account('a'), account('b', { by: 'amount', value: '50.00', kind: 'savings', ofLastNet: 5_000 })),
    });
    expect(text).toContain('checking account ••••3333 the remainder 1,500.00');
    expect(text).toContain('savings account ••••3333 50.00 each pay 50.00');
  });

  it('keeps the number on file when the field stays empty, and sends amounts as they are counted', async () => {
    const one = await part(PersonPayment, { person: deposits(account('a')) });
    await one.press('Change');
    await one.press('Another account');
    await one.fill('Routing number', '987654320');
    await one.fill('Account number', '44445555');
    await one.fill('Amount', '1,250.00');
    await one.press('Pay this way from now on');
    expect(await one.answer('PUT', '/people/p/payment', {})).toEqual({
      method: 'deposit',
      accounts: [
        { bank: '987654320', account: '44445555', kind: 'checking', by: 'amount', value: '1250.00' },
        { id: 'a', bank: '123456780', kind: 'checking', by: 'remainder' },
      ],
    });
    expect(one.element.querySelector('form')).toBeNull();
  });

  it('says what is wrong with a routing number and keeps everything typed', async () => {
    const one = await part(PersonPayment, { person: person(null) });
    expect(one.text).toContain('No method of payment is on file.');
    await one.press('Change');
    await one.fill('Routing number', '123456789');
    await one.press('Pay this way from now on');
    await one.answer('PUT', '/people/p/payment', refused('The routing number is mistyped: its check digit does not agree.'), 422);
    expect(one.text).toContain('check digit does not agree');
    expect(one.field('Routing number').value).toBe('123456789');
  });

  it('by cheque needs no account', async () => {
    const one = await part(PersonPayment, { person: deposits(account('a')) });
    await one.press('Change');
    await one.fill('Method', 'cheque');
    expect(one.element.querySelector('fieldset')).toBeNull();
    await one.press('Pay this way from now on');
    expect(await one.answer('PUT', '/people/p/payment', {})).toEqual({ method: 'cheque' });
  });

  it('asks for a trial deposit, and is told that it arrived', async () => {
    const one = await part(PersonPayment, { person: deposits(account('a')) });
    await one.press('Ask for one');
    const sent = await one.answer('PUT', '/people/p/payment/trial', {});
    expect(sent).toEqual({ account: 'a', state: 'asked' });
    const asked = await (async () => {
      one.fixture.componentRef.setInput('person', deposits(account('a', { trial: 'asked' })));
      await one.settle();
      return one.text;
    })();
    expect(asked).toContain('goes with the next payment');
    expect(one.buttons()).toContain('It arrived');
  });

  it('shows numbers only when asked, and then once', async () => {
    const one = await part(PersonPayment, { person: deposits(account('a')) });
    await one.press('Show the account number; recorded');
    await one.answer('POST', '/people/p/reveal', { value: '33333333' });
    expect(one.text).toContain('33333333');
  });
});
