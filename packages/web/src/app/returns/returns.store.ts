import { createPageStore } from '../api/page-store';

export const quarterlyStore = createPageStore('quarterly', 'quarterlyReturn');
export const yearEndStore = createPageStore('yearEnd', 'yearEnd');
