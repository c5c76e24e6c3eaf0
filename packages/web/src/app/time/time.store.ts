import { createPageStore } from '../api/page-store';

export const timeStore = createPageStore('time', 'timePage');
export const clockStore = createPageStore('clock', 'clock');
