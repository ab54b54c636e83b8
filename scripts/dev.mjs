// npm run dev: server and interface with reload, on ports 4601 and 4600.
import { install, start, tool } from './lib.mjs';

await install();
const children = [
  start(tool('tsx'), ['watch', 'server/src/main.ts'], { env: { ...process.env, PORT: '4601' } }),
  start(tool('vite'), ['web', '--port', '4600', '--strictPort']),
];
for (const child of children) child.on('exit', () => children.forEach((other) => other.kill()));
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => children.forEach((child) => child.kill(signal)));
