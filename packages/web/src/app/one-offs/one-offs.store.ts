import { createPageStore } from '../api/page-store';

export const oneOffsStore = createPageStore('oneOffs', 'oneOffs');
export const outboxStore = createPageStore('outbox', 'outbox');
