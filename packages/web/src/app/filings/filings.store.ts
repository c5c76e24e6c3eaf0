import { createPageStore } from '../api/page-store';

export const filingsStore = createPageStore('filings', 'filings');
export const filingStore = createPageStore('filing', 'filing');
export const yearStore = createPageStore('year', 'yearPlan');
export const reconciledStore = createPageStore('yearReconciled', 'yearReconciled');
export const boxMapStore = createPageStore('boxMap', 'boxMap');
export const agencyStore = createPageStore('agency', 'agencyView');
