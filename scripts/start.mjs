// npm start: everything that is needed to use Carafe, and only what is missing.
import { build, install, root, start } from './lib.mjs';

await install();
build();
const server = start(process.execPath, ['server/dist/main.js'], { cwd: root });
server.on('exit', (code) => process.exit(code ?? 0));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
