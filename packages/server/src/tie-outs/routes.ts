import type { Handle } from '../http/route';
import { checkTieOuts, untiedNow } from './tie-outs';

export function tieOutRoutes(handle: Handle): void {
  handle('untied', ({ scope }) => untiedNow(scope));
  handle('tieOuts', ({ scope }) => checkTieOuts(scope));
}
