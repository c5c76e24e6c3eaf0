import { createPageStore } from '../api/page-store';

export const enrolmentStore = createPageStore('enrolment', 'enrolment');
