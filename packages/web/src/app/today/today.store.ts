import { createPageStore } from '../api/page-store';

export const todayStore = createPageStore('today', 'today');
