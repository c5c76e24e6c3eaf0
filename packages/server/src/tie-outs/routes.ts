import type { Handle } from '../http/route';
import { checkTieOuts } from './tie-outs';

export function tieOutRoutes(handle: Handle): void {
  handle('tieOuts', ({ scope }) => checkTieOuts(scope));
}
