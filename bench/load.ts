import { setTimeout as wait } from 'node:timers/promises';

const READERS = 20;
/** What is read, in turn. */
const NAMES = ['Today', 'the people', 'the sheet', 'a person', 'a payslip', 'the pay items', 'a payslip’s PDF', 'the review'];

interface Seat {
  get(path: string): Promise<number>;
  patch(path: string, body: object): Promise<number>;
}

/** Many readers and one editor at once, against a running server; times in milliseconds. */
export async function measureLoad(
  address: string,
  { email, password, run, seconds }: { email: string; password: string; run: string; seconds: number },
): Promise<[string, number, string][]> {
  for (
    let turn = 0;
    turn < 100 &&
    !(await fetch(`${address}/health`).then(
      (answer) => answer.ok,
      () => false,
    ));
    turn++
  )
    await wait(100);
  const seat = await signedIn(address, email, password);
  const rows = (await (await fetch(`${seat.at}/pay-runs/${run}`, { headers: seat.headers })).json()) as {
    rows: { payslipId: string; personId: string; version: number }[];
  };
  const reads: number[] = [];
  const byPath: number[][] = [];
  const edits: number[] = [];
  const health: number[] = [];
  const faults: number[] = [];
  const until = performance.now() + seconds * 1000;
  const timed = async (into: number[], work: () => Promise<number>) => {
    const began = performance.now();
    const status = await work();
    into.push(performance.now() - began);
    if (status !== 200) faults.push(status);
  };
  const paths = (turn: number): string[] => {
    const row = rows.rows[turn % rows.rows.length];
    return [
      'today',
      'people',
      `pay-runs/${run}`,
      `people/${row?.personId}`,
      `payslips/${row?.payslipId}`,
      'pay-items',
      `payslips/${row?.payslipId}/payslip.pdf`,
      `pay-runs/${run}/review`,
    ];
  };
  /** Each alone, before anybody else comes. */
  const alone: [string, number, string][] = [];
  for (const [index, path] of paths(0).entries()) {
    const times: number[] = [];
    for (let turn = 0; turn < 5; turn++) await timed(times, () => seat.get(path));
    alone.push([`${NAMES[index]} of 1,000 people, alone`, times.sort((a, b) => a - b)[2] ?? 0, 'ms']);
  }
  const reader = async (first: number) => {
    for (let turn = first; performance.now() < until; turn += 7) {
      const all = paths(turn);
      const index = turn % all.length;
      const began = performance.now();
      await timed(reads, () => seat.get(all[index] ?? 'today'));
      (byPath[index] ??= []).push(performance.now() - began);
      // Somebody reads what came.
      await wait(150);
    }
  };
  const editor = async () => {
    for (let turn = 0; performance.now() < until; turn++) {
      const row = rows.rows[turn % rows.rows.length];
      if (!row) return;
      await timed(edits, () =>
        seat.patch(`pay-runs/${run}/payslips/${row.payslipId}`, { version: row.version++, edits: { note: `Note ${turn}` } }),
      );
      await wait(100);
    }
  };
  const watcher = async () => {
    while (performance.now() < until) {
      await timed(health, () => fetch(`${address}/health`).then((answer) => answer.status));
      await wait(50);
    }
  };
  await Promise.all([...Array.from({ length: READERS }, (_none, index) => reader(index)), editor(), watcher()]);
  const at = (times: number[], part: number) => [...times].sort((a, b) => a - b)[Math.floor(times.length * part)] ?? 0;
  return [
    ...alone,
    [`${READERS} readers and one editor, reads a second`, reads.length / seconds, 'a second'],
    ['the same, reads, median', at(reads, 0.5), 'ms'],
    ['the same, reads, 99 of 100 below (wanted: 1000)', at(reads, 0.99), 'ms'],
    ...NAMES.map((name, index): [string, number, string] => [`the same, ${name}, 99 of 100 below`, at(byPath[index] ?? [], 0.99), 'ms']),
    ['the same, edits, median', at(edits, 0.5), 'ms'],
    ['the same, edits, 99 of 100 below (wanted: 1000)', at(edits, 0.99), 'ms'],
    ['the same, any other request, 99 of 100 below', at(health, 0.99), 'ms'],
    ['the same, answers that were errors', faults.length, 'answers'],
  ];
}

async function signedIn(address: string, email: string, password: string): Promise<Seat & { at: string; headers: Record<string, string> }> {
  const answer = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password }),
  });
  const { csrfToken, employers } = (await answer.json()) as { csrfToken: string; employers: { id: string }[] };
  const headers = {
    'content-type': 'application/json',
    'x-csrf-token': csrfToken,
    cookie: (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '',
  };
  const at = `${address}/api/employers/${employers[0]?.id}`;
  const done = async (request: Promise<Response>) => {
    const response = await request;
    await response.arrayBuffer();
    return response.status;
  };
  return {
    at,
    headers,
    get: (path) => done(fetch(`${at}/${path}`, { headers })),
    patch: (path, body) => done(fetch(`${at}/${path}`, { method: 'PATCH', headers, body: JSON.stringify(body) })),
  };
}
