// npm run bench: measures, prints a table, and writes bench/results/latest.json.
import { build, install, run, tool } from './lib.mjs';

await install();
build();
run(tool('tsx'), ['bench/run.ts', ...process.argv.slice(2)]);
