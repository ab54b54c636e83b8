import { bundle, write, eventLines } from './intake';
await bundle();
await write('/tmp/ev.ndjson', eventLines());
