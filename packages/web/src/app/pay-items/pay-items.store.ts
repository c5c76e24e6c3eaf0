import { createPageStore } from '../api/page-store';

export const payItemsStore = createPageStore('payItems', 'payItems');
export const payItemStore = createPageStore('payItem', 'payItem');
export const treatmentsStore = createPageStore('treatments', 'treatments');
