import { createPageStore } from '../api/page-store';

export const leaveStore = createPageStore('leave', 'leavePage');
