// npm run demo:reset: throws the database away; the next start makes it anew with the demo.
import { existsSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { root } from './lib.mjs';

const data = process.env.CARAFE_DATA ? resolve(process.env.CARAFE_DATA) : join(root, 'data');
for (const name of ['carafe.db', 'carafe.db-wal', 'carafe.db-shm', 'files'])
  rmSync(join(data, name), { force: true, recursive: true });
console.log(
  existsSync(data)
    ? `The database in ${data} was removed. The next npm start makes it anew.`
    : 'There was no database.',
);
