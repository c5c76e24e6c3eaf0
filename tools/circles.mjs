import madge from 'madge';

// Refuses circles of imports: a circle is a fault of the design. Types are imports, too.
let found = 0;
for (const [folder, tsConfig] of [
  ['packages/core/src', 'packages/core/tsconfig.json'],
  ['packages/contract/src', 'packages/contract/tsconfig.json'],
  ['packages/server/src', 'packages/server/tsconfig.json'],
  ['packages/web/src', 'packages/web/tsconfig.app.json'],
]) {
  const graph = await madge(folder, {
    fileExtensions: ['ts'],
    tsConfig,
    excludeRegExp: [/\.spec\.ts$/, /testing\//],
    detectiveOptions: { ts: { skipTypeImports: false } },
  });
  for (const circle of graph.circular()) {
    found++;
    console.log(`${folder}: ${circle.join(' → ')} → ${circle[0]}`);
  }
}
if (found) console.log(`${found} circles of imports`);
process.exitCode = found ? 1 : 0;
