import { createPageStore } from '../api/page-store';

export const noticesStore = createPageStore('notices', 'notices');
