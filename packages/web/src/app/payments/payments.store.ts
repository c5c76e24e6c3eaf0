import { createPageStore } from '../api/page-store';

export const ladderStore = createPageStore('ladder', 'ladder');
export const batchStore = createPageStore('batch', 'batch');
export const payeesStore = createPageStore('payees', 'payees');
export const payeeStore = createPageStore('payee', 'payee');
export const chequesStore = createPageStore('cheques', 'cheques');
export const bankStore = createPageStore('bankView', 'bankView');
export const journalStore = createPageStore('journal', 'journal');
export const accountMapStore = createPageStore('accountMap', 'accountMap');
export const tieOutsStore = createPageStore('tieOuts', 'tieOuts');
export const fundingStore = createPageStore('funding', 'funding');
export const runJournalStore = createPageStore('runJournal', 'journalPreview');
export const accrualStore = createPageStore('accrual', 'accrual');
export const costsStore = createPageStore('costs', 'costByDay');
export const taxGridStore = createPageStore('taxGrid', 'taxGrid');
