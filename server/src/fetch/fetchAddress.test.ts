import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { brotliCompressSync, deflateSync, gzipSync } from 'node:zlib';
import { testServer } from '../testing';
import { addressOf, fetchAddress, isPublic, type FetchRules } from './fetchAddress';

type Answer = (response: ServerResponse, request: IncomingMessage) => void;
let server: Server;
let origin: string;
const answers: Record<string, Answer> = {};
beforeAll(async () => {
  server = createServer((asked, answer) => {
    const give = answers[asked.url ?? ''];
    if (give) give(answer, asked);
    else answer.writeHead(404).end();
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  return new Promise((done) => server.close(done));
});

const rules = { self: 'http://127.0.0.1:1', maxBytes: 1000, maxMilliseconds: 1000 };
const open: FetchRules = { ...rules, allows: () => true };
const sends =
  (body: string | Buffer, headers: Record<string, string> = {}, status = 200): Answer =>
  (response) =>
    void response.writeHead(status, headers).end(body);
const sendsOn = (location: string) => sends('', { location }, 302);
async function bodyOf(path: string, given = open): Promise<string> {
  const parts: Buffer[] = [];
  for await (const chunk of (await fetchAddress(`${origin}${path}`, given)).body)
    parts.push(chunk as Buffer);
  return Buffer.concat(parts).toString();
}

describe('which addresses are asked', () => {
  test.each([
    ...['127.0.0.1', '10.1.2.3', '172.16.0.1', '192.168.0.9', '169.254.1.1', '0.0.0.0'],
    ...['100.64.0.1', '::1', '::', 'fd00::1', 'fe80::1', '::ffff:10.0.0.1', '::ffff:7f00:1'],
    ...['::127.0.0.1', '::7f00:1', '64:ff9b::10.0.0.1', 'x', ''],
  ])('%s is no public address', (address) => expect(isPublic(address)).toBe(false));

  test.each(['93.184.216.34', '2606:4700::1111'])('%s is one', (address) =>
    expect(isPublic(address)).toBe(true),
  );

  test('private ones are refused, by number, by name and after a redirect', async () => {
    await expect(fetchAddress(`${origin}/x`, rules)).rejects.toThrow(/private network/);
    await expect(fetchAddress('http://localhost:9/x', rules)).rejects.toThrow(/private network/);
    await expect(fetchAddress('http://[::127.0.0.1]/x', rules)).rejects.toThrow(/private network/);
    answers['/away'] = sendsOn('http://10.0.0.1/x');
    const first = { ...rules, allows: (ip: string) => ip === '127.0.0.1' };
    await expect(bodyOf('/away', first)).rejects.toThrow(/“10.0.0.1” is in a private network/);
  });

  test.each([
    ['ftp://x.example/a', /http and https/],
    ['file:///etc/passwd', /http and https/],
    ['no address', /not a web address/],
    ['http://[', /not a web address/],
    ['https://a:b@x.example', /name and password/],
  ])('%s is told in a sentence', (written, says) => {
    expect(() => addressOf(written, '')).toThrow(says);
  });

  test('a redirect to nowhere or round and round is told', async () => {
    answers['/nowhere'] = sendsOn('http://[');
    await expect(bodyOf('/nowhere')).rejects.toThrow(
      /redirects to “http:\/\/\[”, which is not a web/,
    );
    answers['/scheme'] = sendsOn('file:///etc/passwd');
    await expect(bodyOf('/scheme')).rejects.toThrow(/Only http and https/);
    answers['/round'] = sendsOn(`${origin}/round`);
    await expect(bodyOf('/round')).rejects.toThrow(/redirects more than/);
  });

  test('those of the own stand-ins are, behind an access token that goes nowhere else', async () => {
    const guarded = await testServer({ token: 'secret' });
    const live = guarded.app.listen(0);
    await new Promise((done) => live.once('listening', done));
    const self = `http://127.0.0.1:${(live.address() as AddressInfo).port}`;
    const own = { ...rules, self };
    const feed = await fetchAddress('/journal/furrow/feed.json', { ...own, token: 'secret' });
    feed.body.resume();
    await expect(fetchAddress('/journal/furrow/feed.json', own)).rejects.toThrow(/401/);
    let sent: unknown;
    answers['/other'] = (response, { headers }) => {
      sent = headers.authorization;
      response.end();
    };
    await bodyOf('/other', { ...open, token: 'secret' });
    expect(sent).toBeUndefined();
    live.close();
    guarded.store.close();
  });
});

describe('what is fetched', () => {
  test('is given as it was sent, also where it was packed', async () => {
    answers['/plain'] = sends('fine');
    expect(await bodyOf('/plain')).toBe('fine');
    for (const [encoding, packed] of [
      ['gzip', gzipSync('packed')],
      ['x-gzip', gzipSync('packed')],
      ['deflate', deflateSync('packed')],
      ['br', brotliCompressSync('packed')],
    ] as const) {
      answers['/packed'] = sends(packed, { 'content-encoding': encoding });
      expect(await bodyOf('/packed')).toBe('packed');
    }
  });

  test('is bounded by what it is unpacked, and refused where it cannot be', async () => {
    answers['/big'] = sends('x'.repeat(5000));
    await expect(bodyOf('/big')).rejects.toThrow(/sends more than/);
    answers['/bomb'] = sends(gzipSync('x'.repeat(50_000_000)), { 'content-encoding': 'gzip' });
    await expect(bodyOf('/bomb')).rejects.toThrow(/sends more than/);
    answers['/odd'] = sends('x', { 'content-encoding': 'zpaq' });
    await expect(bodyOf('/odd')).rejects.toThrow(/compresses its answer as “zpaq”/);
    answers['/damaged'] = sends('not packed', { 'content-encoding': 'gzip' });
    await expect(bodyOf('/damaged')).rejects.toThrow(/damaged/);
    const cut = gzipSync('x'.repeat(900)).subarray(0, 15);
    answers['/cut'] = sends(cut, { 'content-encoding': 'gzip' });
    await expect(bodyOf('/cut')).rejects.toThrow(/damaged/);
  });

  test('is waited for within bounds', async () => {
    answers['/never'] = () => undefined;
    await expect(bodyOf('/never')).rejects.toThrow(/longer than 1 seconds/);
    answers['/drip'] = (response) => {
      response.writeHead(200);
      const drip = setInterval(() => response.write('x'), 50);
      response.on('close', () => clearInterval(drip));
    };
    await expect(bodyOf('/drip')).rejects.toThrow(/longer than 1 seconds/);
  });

  test('and what goes wrong is told without words of a library', async () => {
    await expect(bodyOf('/nothing')).rejects.toThrow(/answers with 404/);
    answers['/half'] = (response) => {
      response.writeHead(200, { 'content-length': '100' });
      response.write('half');
      setImmediate(() => response.socket?.destroy());
    };
    await expect(bodyOf('/half')).rejects.toThrow(/stopped before the end/);
    answers['/other'] = (response) => void response.socket?.end('SSH-2.0-hello\r\n');
    await expect(bodyOf('/other')).rejects.toThrow(/not answer with HTTP/);
    await expect(fetchAddress('http://127.0.0.1:9/x', open)).rejects.toThrow(/does not answer/);
    await expect(fetchAddress('http://nobody.invalid/x', open)).rejects.toThrow(
      /No host is called/,
    );
  });
});
