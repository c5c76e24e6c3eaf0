import type { IsoDate } from '../../calendar/dates';
import { Exact } from '../../money/exact';
import type { PayItem } from '../../pay-items/pay-item';
import file from './ready-items.json';
import { tables } from './tables';

interface ReadyItem {
  group: string;
  item: PayItem;
}

/** Standard items; casual hours are paid with the loading of the day. */
export function readyItems(date: IsoDate): readonly ReadyItem[] {
  const { value: loading } = tables.value('au.casual-loading', date);
  const multiple = Exact.whole(100).plus(loading).over(Exact.whole(100)).toDecimal(2);
  return (file.items as ReadyItem[]).map((entry) =>
    entry.item.code === 'casual'
      ? {
          ...entry,
          item: { ...entry.item, name: `Casual hours, with ${loading.toDecimal()} per cent loading`, method: { by: 'hours', multiple } },
        }
      : entry,
  );
}
