import { part, refused } from '../../testing/part';
import { transfer } from '../../testing/payments';
import { ReturnedPayment } from './returned-payment';

describe('A payment that came back', () => {
  it('says why, and is paid again in the way that is chosen; a refusal keeps what was typed', async () => {
    const one = await part(ReturnedPayment, { payment: transfer() });
    const done = one.given(one.fixture.componentInstance.done);
    expect(one.text).toContain('came back 30 Nov 2026 from the checking account ending 7740: The account is closed.');
    await one.fill('Why', 'New account');
    await one.press('Pay it again');
    const at = '/payments/transfers/t1/again';
    await one.answer('POST', at, refused('The account on file is the one that sent it back.'), 409);
    expect(one.text).toContain('is the one that sent it back');
    await one.fill('Way on', 'cheque');
    await one.press('Pay it again');
    expect(await one.answer('POST', at, { id: 't2' })).toEqual({ way: 'cheque', reason: 'New account' });
    expect(done.length).toBe(1);
  });

  it('is held with a reason', async () => {
    const one = await part(ReturnedPayment, { payment: transfer() });
    await one.fill('Way on', 'hold');
    await one.fill('Why', 'Waiting for the family');
    await one.press('Hold it');
    expect(await one.answer('POST', '/payments/transfers/t1/held', {})).toEqual({ reason: 'Waiting for the family' });
  });

  it('a notice is taken over or put aside', async () => {
    const told = { bank: '031000040', account: '55667788' };
    const events = [
      { step: 'notice' as const, on: '2026-11-30', code: 'C01', words: 'The account number has changed', told, who: 'The bank' },
    ];
    const one = await part(ReturnedPayment, { payment: transfer({ state: 'confirmed', events }) });
    expect(one.text).toContain('The account number has changed, account ending 7788');
    await one.press('Take it over into the account');
    expect(await one.answer('POST', '/payments/transfers/t1/notice', {})).toEqual({ take: true });
  });

  it('of a payee it is owed again, and who may only look sees no way on', async () => {
    expect((await part(ReturnedPayment, { payment: transfer({ remittanceId: 'm1', personId: null }) })).text).toContain('It is owed again');
    expect((await part(ReturnedPayment, { payment: transfer() }, { role: 'viewer' })).buttons()).toEqual([]);
  });
});
