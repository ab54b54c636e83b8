// npm run screenshots: takes the pictures in docs/screenshots anew, from the demo data.
import { build, install, run, tool } from './lib.mjs';

await install();
build();
run(tool('tsx'), ['e2e/screenshots.ts']);
