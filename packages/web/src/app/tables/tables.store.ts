import { createPageStore } from '../api/page-store';

export const tablesStore = createPageStore('tables', 'tables');
export const tableComparisonStore = createPageStore('tableComparison', 'compareTables');
