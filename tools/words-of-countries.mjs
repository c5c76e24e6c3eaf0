import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

// Refuses a country's words outside its pack; see words-of-countries.json.
const { why, words } = JSON.parse(readFileSync('tools/words-of-countries.json', 'utf8'));
const wanted = new RegExp(words.join('|'));
const elsewhere =
  /rules\/[A-Z]{2}\/|standins\/agencies\/[A-Z]{2}\/|\.spec\.ts$|\/testing\/|\/migrations\/|\/examples\/|rules\/registry\.ts$/;
const files = execFileSync('git', ['ls-files', 'packages'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /\/src\/.*\.(ts|html)$/.test(file) && !elsewhere.test(file));
let found = 0;
for (const file of files)
  readFileSync(file, 'utf8')
    .split('\n')
    .forEach((line, index) => {
      if (!wanted.test(line)) return;
      found++;
      console.log(`${file}:${index + 1}: ${line.trim().slice(0, 140)}`);
    });
if (found) console.log(`${found} lines. ${why}`);
process.exitCode = found ? 1 : 0;
