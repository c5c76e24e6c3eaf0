import { build } from 'esbuild';
import { readFileSync } from 'node:fs';
const { dependencies } = JSON.parse(readFileSync('package.json', 'utf8'));
// Packages of the registry stay outside; the workspaces are bundled.
const external = Object.keys(dependencies)
  .filter((name) => !name.startsWith('@woodruff/'))
  .flatMap((name) => [name, `${name}/*`]);
await build({
  entryPoints: {
    main: 'src/main.ts',
    'calculation-worker': 'src/calculation/calculation-worker.ts',
    'heavy-worker': 'src/threads/heavy-worker.ts',
    'load-demo': '../../demo/load.ts',
    bench: '../../bench/run.ts',
  },
  outdir: 'dist',
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  external: [...external, '@playwright/test'],
  logLevel: 'warning',
});
