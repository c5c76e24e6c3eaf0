import { createPageStore } from '../api/page-store';

export const ownStore = createPageStore('own', 'own');
