import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';

// Holds the floors of the server: a room imports from its own floor and from those below. What must be told upwards is an
// event of the lower room, heard in subscriptions.ts. A room's routes.ts is its door to HTTP and stands on the top floor.
const FLOORS = [
  ['database', 'vault', 'audit', 'files', 'documents', 'threads'],
  ['users', 'employers'],
  ['payslip-input', 'tables'],
  ['calculation', 'ledger'],
  ['people', 'pay-items'],
  ['time', 'leave', 'clock', 'one-offs', 'enrolment'],
  ['groups', 'pay-runs'],
  ['remittances', 'journal', 'payments', 'tie-outs', 'filings', 'leaving', 'mail'],
  ['today', 'own'],
  ['http', 'jobs', 'standins'],
];
const BASE = 'packages/server/src';
const TOP = FLOORS.length - 1;

const files = readdirSync(BASE, { recursive: true })
  .map(String)
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.spec.ts') && file.includes('/') && !file.startsWith('testing/'));
const floorOf = (file) => (file.endsWith('/routes.ts') ? TOP : FLOORS.findIndex((rooms) => rooms.includes(file.split('/')[0])));

let found = 0;
const say = (sentence) => (found++, console.log(sentence));
for (const file of files) {
  const own = floorOf(file);
  if (own < 0) say(`${file}: its room stands on no floor; name it in tools/floors.mjs`);
  for (const [, path] of readFileSync(join(BASE, file), 'utf8').matchAll(/(?:from|import) '(\.[^']+)'/g)) {
    const to = relative(BASE, normalize(join(BASE, dirname(file), path)));
    // What stands in no room: errors and scope are the ground, everything else puts the house together.
    const floor = to.includes('/')
      ? floorOf(`${to}.ts`)
      : ['errors', 'scope', 'environment', 'events', 'formats'].includes(to)
        ? 0
        : TOP + 1;
    if (floor > own) say(`${file} imports ${to}, which stands above it`);
  }
}
if (found) console.log(`${found} imports run upwards`);
process.exitCode = found ? 1 : 0;
