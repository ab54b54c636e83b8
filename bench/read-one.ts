import { createReadStream } from 'node:fs';
import { csvOptions } from '@carafe/core/formats';
import { parse } from 'csv-parse';

// Reads one CSV with csv-parse alone, as its documentation says, and prints how long it took.
const [, , file = ''] = process.argv;
const start = performance.now();
const parser = createReadStream(file, { highWaterMark: 1 << 18 }).pipe(
  parse(csvOptions({ delimiter: ',', quote: '"', header: true })),
);
let rows = 0;
for await (const row of parser) if ((row as string[]).length > 0) rows++;
console.log(JSON.stringify({ milliseconds: performance.now() - start, rows }));
