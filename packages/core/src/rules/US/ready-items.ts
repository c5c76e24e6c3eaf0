import type { IsoDate } from '../../calendar/dates';
import type { Limits, PayItem } from '../../pay-items/pay-item';
import file from './ready-items.json';
import { tables } from './tables';

/** A limit as text, or the dated table in which the law's amount stands. */
type Given = string | { table: string };
interface Ready {
  group: string;
  item: Omit<PayItem, 'limits'> & { limits?: Partial<Record<keyof Limits, Given>> };
}

/** Standard items, with the limits that the law has on a date; where it has none for the date, without. */
export const readyItems = (date: IsoDate): { group: string; item: PayItem }[] =>
  (file.items as Ready[]).map(({ group, item: { limits, ...item } }) => {
    const found = Object.entries(limits ?? {}).flatMap(([key, given]) =>
      typeof given === 'string'
        ? [[key, given]]
        : tables.has(given.table, date)
          ? [[key, tables.value(given.table, date).value.toDecimal(2)]]
          : [],
    );
    return { group, item: { ...item, ...(found.length ? { limits: Object.fromEntries(found) as Limits } : {}) } };
  });
