import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { receiveFile } from './receiveFile';

const folder = mkdtempSync(join(tmpdir(), 'carafe-receive-'));
const MOST = 1_000_000;
const LIMIT = { most: MOST, refusal: 'Too large.' };
let server: Server;
let file: string;

beforeEach(async () => {
  file = join(folder, 'kept');
  server = createServer((asked, answer) => {
    const say = (status: number, words: string) =>
      answer.writeHead(status, { 'content-length': words.length }).end(words);
    receiveFile(asked, file, LIMIT).then(
      (bytes) => say(200, String(bytes)),
      (error: Error) => say(413, error.message),
    );
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
});
afterEach(() => new Promise((done) => server.close(done)));

/** Sends so many bytes as a browser does, which reads the answer when all has gone. */
async function sent(bytes: number): Promise<string> {
  const { port } = server.address() as AddressInfo;
  const socket = connect(port, '127.0.0.1');
  const heard: Buffer[] = [];
  socket.on('data', (part) => heard.push(part));
  socket.write(`POST / HTTP/1.1\r\nHost: x\r\nContent-Length: ${bytes}\r\n\r\n`);
  const piece = Buffer.alloc(64_000, 'x');
  for (let left = bytes; left > 0; left -= piece.length)
    if (!socket.write(piece.subarray(0, left))) await once(socket, 'drain');
  const answer = () => {
    const [head = '', words = ''] = Buffer.concat(heard).toString().split('\r\n\r\n');
    const length = Number(/content-length: (\d+)/i.exec(head)?.[1] ?? Number.NaN);
    return words.length === length ? `${head.split(' ')[1]} ${words}` : null;
  };
  while (answer() === null) await once(socket, 'data');
  socket.destroy();
  return answer() ?? '';
}

test('a file is written as it comes', async () => {
  expect(await sent(300_000)).toBe('200 300000');
  expect(readFileSync(file, 'utf8')).toBe('x'.repeat(300_000));
});

test('one that is too large is refused when all of it was sent, and leaves nothing', async () => {
  // Far more than lies in buffers on the way.
  expect(await sent(40_000_000)).toBe('413 Too large.');
  expect(existsSync(file)).toBe(false);
  expect(await sent(MOST)).toBe('200 1000000');
});

test('a file that cannot be written is told when all was sent', async () => {
  file = join(folder, 'no such folder', 'kept');
  expect(await sent(40_000_000)).toMatch(/^413 ENOENT/);
});
