import { createPageStore } from '../api/page-store';

export const timelineStore = createPageStore('timeline', 'timeline');
