import { availableParallelism } from 'node:os';

/** So many readers are answered at once; the others wait in the order in which they came. */
const AT_ONCE = availableParallelism() * 2;

let free = AT_ONCE;
const waiting: (() => void)[] = [];

/**
 * Answers readers in turn. Where more come than the machine has room for, working at all of them at once makes each of
 * them late; in turn, the last waits no longer and the others less. What saves is never put behind readers, nor they
 * behind what waits for a lock.
 */
export async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (free > 0) free--;
  else await new Promise<void>((resolve) => waiting.push(resolve));
  try {
    return await work();
  } finally {
    const next = waiting.shift();
    if (next) next();
    else free++;
  }
}
