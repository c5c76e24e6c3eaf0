import { createPageStore } from '../api/page-store';

/** The whole set-up of the employer, with what is missing before the first run. */
export const setUpStore = createPageStore('setUp', 'setUp');
