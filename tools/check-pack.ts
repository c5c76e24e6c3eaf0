import { readdirSync, readFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { checkPack } from '../packages/core/src/rules/check-pack';
import type { ParameterEntry } from '../packages/core/src/rules/parameters';
import { packOf } from '../packages/core/src/rules/registry';
import { inputOf, type Sketch } from '../packages/core/src/payslip/testing/inputs';

/** npm run check-pack -- GB: what a country's pack still lacks, and what is wrong with it. */
const code = process.argv[2] ?? '';
const folder = `packages/core/src/rules/${code}`;
const pack = packOf(code);
const { entries } = (await import(pathToFileURL(`${folder}/tables.ts`).href)) as { entries: ParameterEntry[] };
const examples = readdirSync(`${folder}/examples`).flatMap((file) =>
  (JSON.parse(readFileSync(`${folder}/examples/${file}`, 'utf8')) as { examples: { sketch: Sketch }[] }).examples.map(({ sketch }) =>
    inputOf(sketch),
  ),
);
const { faults, lacking } = checkPack(pack, { entries, examples });
console.log(`${pack.name}: ${entries.length} dated figures, ${examples.length} examples.`);
for (const fault of faults) console.log(`  wrong    ${fault}`);
for (const lack of lacking) console.log(`  lacking  ${lack}`);
console.log(faults.length || lacking.length ? `${faults.length} wrong, ${lacking.length} lacking` : 'Nothing is wrong or lacking.');
process.exitCode = faults.length ? 1 : 0;
