import type { PayItem } from '../../pay-items/pay-item';
import file from './ready-items.json';

/** Standard items; the law sets none of them a limit of its own. */
export const readyItems = file.items as { group: string; item: PayItem }[];
