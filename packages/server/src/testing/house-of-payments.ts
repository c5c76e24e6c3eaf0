import type { Transfer } from '@woodruff/contract';
import { select } from '../database/connection';
import { moveToday } from '../employers/service';
import { setBank } from '../employers/paying-accounts';
import { setPayment } from '../people/payment/payment';
import { holidaysOf, type Scope } from '../scope';
import { StandInBank } from '../standins/bank/bank';
import { setOpening } from '../standins/bank/books';
import { PERIOD, Workplace } from './workplace';
import type { Bank } from '../payments/bank';
import { batchView, prepareBatch } from '../payments/batches';
import { releaseBatch } from '../payments/release';
import { exchangeWithBank } from '../payments/exchange';

export const OWN = { name: 'Tidewater Savings', routing: '051000017', account: '7700144' };
export const HANA = { method: 'deposit' as const, bank: '011000015', account: '440012301' };

/** An approved run: Hana by deposit in two parts, Sol by deposit, the others by cheque. */
export class House {
  run = '';
  bank: Bank;

  private constructor(
    readonly place: Workplace,
    public scope: Scope,
  ) {
    this.bank = new StandInBank(scope.database, holidaysOf(scope));
  }

  static async begin(): Promise<House> {
    const place = await Workplace.make();
    const house = new House(place, await place.scope());
    const { scope } = house;
    // Accounts of every spec are its own: the bank is one for all.
    const own = String(Math.floor(Math.random() * 1e9) + 1e9);
    await setBank(scope, { ...OWN, account: own });
    await setPayment(scope, place.people.hourly, {
      method: 'deposit',
      accounts: [
        { bank: HANA.bank, account: `${own}1`, kind: 'savings', by: 'amount', value: '200.00' },
        { bank: HANA.bank, account: `${own}2`, kind: 'checking', by: 'remainder' },
      ],
    });
    await setPayment(scope, place.people.salaried, { method: 'deposit', bank: '031000040', account: `${own}3` });
    await setOpening(scope, 5_000_000);
    house.run = await place.run();
    await place.approve(house.run);
    house.scope = await place.scope();
    return house;
  }

  async account(which: 1 | 2 | 3): Promise<{ bank: string; account: string }> {
    const [row] = await select<{ account: string }>(
      this.scope.database,
      `select account from bank.payments where account like '%${which}' and length(account) = 11 and name like :name order by id desc limit 1`,
      {
        name: which === 3 ? 'SOL%' : 'HANA%',
      },
    );
    return { bank: which === 3 ? '031000040' : HANA.bank, account: row?.account ?? '' };
  }

  async prepare(kind: 'pay' | 'again' = 'pay', payDate = PERIOD.payDate): Promise<string> {
    return (await prepareBatch(this.scope, { kind, payDate })).id;
  }

  async release(batch: string, more: { accounts?: 'approved' | 'now'; format?: string; balanced?: boolean } = {}): Promise<void> {
    await releaseBatch(this.scope, batch, { version: (await batchView(this.scope, batch)).version, balanced: true, ...more });
  }

  exchange(): ReturnType<typeof exchangeWithBank> {
    return exchangeWithBank(this.scope, this.bank);
  }

  async on(date: string): Promise<void> {
    await moveToday(this.scope, date);
    this.scope = await this.place.scope();
  }

  /** Everything sent, and what comes back is back. */
  async sent(): Promise<string> {
    const batch = await this.prepare();
    await this.release(batch);
    await this.exchange();
    return batch;
  }

  async to(payee: string, batch?: string): Promise<Transfer[]> {
    const batches = batch
      ? [batch]
      : (
          await select<{ id: string }>(this.scope.database, 'select id from payment_batches where employer_id = :id', {
            id: this.place.employerId,
          })
        ).map(({ id }) => id);
    const all = await Promise.all(batches.map((id) => batchView(this.scope, id)));
    return all.flatMap(({ transfers }) => transfers).filter((transfer) => transfer.payee.startsWith(payee));
  }
}
