import { createPageStore } from '../api/page-store';

export const payItemsStore = createPageStore('payItems', 'payItems');
export const payItemStore = createPageStore('payItem', 'payItem');
export const itemChoicesStore = createPageStore('itemChoices', 'itemChoices');
export const readyItemsStore = createPageStore('readyItems', 'readyItems');
