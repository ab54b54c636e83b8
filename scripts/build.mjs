// Builds the interface (web/dist) and the server with its command line (server/dist).
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { root, run, tool } from './lib.mjs';

const manifests = ['core', 'contract', 'server', 'demo'].map((workspace) =>
  JSON.parse(readFileSync(join(root, workspace, 'package.json'), 'utf8')),
);
// Packages stay outside; the project's own workspaces are bundled, since they are TypeScript.
const external = manifests
  .flatMap(({ dependencies = {} }) => Object.keys(dependencies))
  .filter((name) => !name.startsWith('@carafe/'));

await build({
  entryPoints: ['main', 'cli', 'jobs/worker', 'jobs/reader', 'jobs/folder'].map((name) =>
    join(root, `server/src/${name}.ts`),
  ),
  outbase: join(root, 'server/src'),
  outdir: join(root, 'server/dist'),
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: external.flatMap((name) => [name, `${name}/*`]),
  sourcemap: true,
  logLevel: 'warning',
});
run(tool('vite'), ['build', '--logLevel', 'warn'], { cwd: join(root, 'web') });
