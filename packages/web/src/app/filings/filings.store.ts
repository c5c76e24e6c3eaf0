import { createPageStore } from '../api/page-store';

export const filingsStore = createPageStore('filings', 'filings');
export const filingStore = createPageStore('filing', 'filing');
export const agencyStore = createPageStore('agency', 'agencyView');
