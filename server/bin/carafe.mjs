#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/cli.js', import.meta.url);
if (!existsSync(built)) {
  console.error('Carafe is not built yet: run npm run build (or npm start) once.');
  process.exit(2);
}
await import(built.href);
