// npm run mutants -- <part>: changes a part of core a little, many times, and tells which changes no test finds.
import { install, run, tool } from './lib.mjs';

const PARTS = ['sending', 'occasion', 'record', 'recommend', 'render'];
const [part = ''] = process.argv.slice(2);
if (!PARTS.includes(part)) {
  console.log(`Say which part of core: ${PARTS.join(', ')}.`);
  process.exit(1);
}
await install();
run(tool('stryker'), ['run'], { env: { ...process.env, MUTATED: part } });
