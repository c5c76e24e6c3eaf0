import { addDays, isBusinessDay } from '@woodruff/core';
import { createHash } from 'node:crypto';
import { execute, select, type Database } from '../database/connection';
import type { AgencyAnswer, AgencyOrder, AgencyPayments } from '../remittances/agency';

interface Booked {
  confirmation: string;
  settles: string;
}

/**
 * The agencies' own payment service, as small as it can be, with books of its own: it knows an order by its key and takes
 * it once, gives a confirmation, settles on the next business day, and refuses a payer that gives no number.
 */
export class StandInAgencyPayments implements AgencyPayments {
  constructor(
    private readonly database: Database,
    private readonly isHoliday: (date: string) => boolean,
  ) {}

  async pay({ key, payee, taxpayer, about, due, amount, on }: AgencyOrder): Promise<AgencyAnswer> {
    if (!taxpayer) return { taken: false, why: `${payee} knows its payers by a number, and none was given` };
    await execute(
      this.database,
      `insert into agency.payments (confirmation, order_key, payee, taxpayer, about, due, amount, settles_on, received_on)
       values (:confirmation, :key, :payee, :taxpayer, :about, :due, :amount, :settles, :on) on conflict do nothing returning confirmation`,
      { confirmation: numberOf(key), key, payee, taxpayer, about, due, amount, settles: this.bankDayAfter(on), on },
    );
    const [booked] = await select<Booked>(
      this.database,
      'select confirmation, settles_on as settles from agency.payments where order_key = :key',
      { key },
    );
    if (!booked) return { taken: false, why: 'the number of the confirmation is taken: send it again' };
    return { taken: true, ...booked };
  }

  private bankDayAfter(date: string): string {
    let day = addDays(date, 1);
    while (!isBusinessDay(day, this.isHoliday)) day = addDays(day, 1);
    return day;
  }
}

/** Fifteen figures out of the order's key. */
const numberOf = (key: string): string =>
  BigInt(`0x${createHash('sha256').update(key).digest('hex').slice(0, 15)}`)
    .toString()
    .padStart(15, '0')
    .slice(-15);
