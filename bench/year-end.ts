import { COPIES_AT_ONCE } from '@woodruff/contract';
import { filingFile, filingView, copiesPdf, type Scope } from '@woodruff/server';

type Note = (what: string, value: number, unit: string) => void;
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await work();
  return performance.now() - start;
};

/** How long the process keeps others waiting meanwhile: what a timer that is due every 20 ms is late by, in ms. */
async function lateness(work: () => Promise<unknown>): Promise<{ took: number; p99: number }> {
  const late: number[] = [];
  let due = performance.now() + 20;
  const timer = setInterval(() => {
    late.push(Math.max(0, performance.now() - due));
    due = performance.now() + 20;
  }, 20);
  const took = await timed(work);
  clearInterval(timer);
  late.sort((a, b) => a - b);
  return { took, p99: late[Math.floor(late.length * 0.99)] ?? 0 };
}

/** The year's statements of many: boxes and checks, the file, the prints, and a quarter's return. */
export async function yearEnd(scope: Scope, people: number, note: Note): Promise<void> {
  const of = `of ${people.toLocaleString('en')} people`;
  note(`the quarter's return ${of} (wanted: 2,000)`, await timed(() => filingView(scope, '941', '2026-Q1')), 'ms');
  note(`boxes and checks ${of} (wanted: 20,000)`, await timed(() => filingView(scope, 'w-2', '2026')), 'ms');
  note(`the file of wage statements ${of} (wanted: 10,000)`, await timed(() => filingFile(scope, 'w-2', '2026')), 'ms');
  const { took, p99 } = await lateness(async () => {
    for (let part = 1; part <= Math.ceil(people / COPIES_AT_ONCE); part++) await copiesPdf(scope, 'w-2', '2026', { each: 2, part });
  });
  note(`all statements ${of} as PDF (wanted: 300,000)`, took, 'ms');
  note(`others wait meanwhile, p99 (wanted: 200)`, p99, 'ms');
}
