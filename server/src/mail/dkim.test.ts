import { createHash, createVerify, generateKeyPairSync } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { MailSettings } from '@carafe/contract';
import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import { mimeOf } from '../outbox/mime';
import { Door } from './door';
import { transportFor } from './transport';

const folder = mkdtempSync(join(tmpdir(), 'carafe-dkim-'));
const keyFile = join(folder, 'key.pem');
const { privateKey, publicKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
writeFileSync(keyFile, privateKey.export({ type: 'pkcs8', format: 'pem' }));

let server: SMTPServer;
let arrived: Buffer;
beforeAll(async () => {
  server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    onData(stream, _, done) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => ((arrived = Buffer.concat(chunks)), done()));
    },
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
});
afterAll(() => new Promise<void>((done) => server.close(done)));

const settings = () => ({
  server: {
    ...{ kind: 'smtp' as const, host: '127.0.0.1', tls: false, user: '' },
    port: (server.server.address() as AddressInfo).port,
  },
  dkim: { domain: 's.example', selector: 'k1' },
});
const door = (file: string | undefined) =>
  new Door({
    settings: () => settings() as MailSettings,
    ...{ password: () => null, passwordHost: null, mailboxPort: () => null, dkimKeyFile: file },
  });

/** Relaxed canonicalization of a header and of a body (RFC 6376, 3.4.2 and 3.4.4). */
const relaxedHeader = (field: string): string => {
  const [name = '', ...value] = field.split(':');
  const words = value
    .join(':')
    .replace(/\r\n/g, '')
    .replace(/[ \t]+/g, ' ')
    .trim();
  return `${name.toLowerCase().trim()}:${words}`;
};
const relaxedBody = (body: string): string => {
  const lines = body.split('\r\n').map((line) => line.replace(/[ \t]+/g, ' ').replace(/ $/, ''));
  return `${lines.join('\r\n').replace(/(?:\r\n)*$/, '')}\r\n`;
};

/** Whether a message is signed as RFC 6376 says, read anew from its bytes. */
function verified(message: string): { body: boolean; signature: boolean; domain: string } {
  const end = message.indexOf('\r\n\r\n');
  const fields = message.slice(0, end).split(/\r\n(?![ \t])/);
  const own = fields.find((field) => /^DKIM-Signature:/i.test(field)) ?? '';
  const tags = new Map(
    own
      .slice(own.indexOf(':') + 1)
      .split(';')
      .map((tag) => tag.replace(/\s+/g, ''))
      .map((tag) => [tag.slice(0, tag.indexOf('=')), tag.slice(tag.indexOf('=') + 1)]),
  );
  const hash = createHash('sha256').update(relaxedBody(message.slice(end + 4)), 'latin1');
  const left = [...fields];
  const signed = (tags.get('h') ?? '').split(':').flatMap((name) => {
    const at = left.findLastIndex((field) =>
      field.toLowerCase().startsWith(`${name.toLowerCase()}:`),
    );
    return at < 0 ? [] : left.splice(at, 1).map((field) => `${relaxedHeader(field)}\r\n`);
  });
  const bare = relaxedHeader(own.replace(/\bb=[^;]*/, 'b='));
  const check = createVerify('sha256').update(signed.join('') + bare, 'latin1');
  return {
    body: hash.digest('base64') === tags.get('bh'),
    signature: check.verify(publicKey, tags.get('b') ?? '', 'base64'),
    domain: `${tags.get('s') ?? ''}.${tags.get('d') ?? ''}`,
  };
}

test('a mail of the outbox leaves signed, and the signature holds; of a changed one it does not', async () => {
  const way = door(keyFile).way(settings() as MailSettings);
  const transport = createTransport({ ...transportFor(way), ignoreTLS: true });
  const raw = mimeOf({
    from: { name: 'Quillmoss Seed House', address: 'post@s.example' },
    to: { name: '', address: 'maud@s.example' },
    ...{ subject: 'Für Maud', date: new Date('2026-11-26T09:00:00Z') },
    ...{ messageId: '<abc@s.example>', text: 'Hello  you \n\n\n', html: '<p>Hellö</p>' },
    headers: { 'List-Unsubscribe': '<https://s.example/mail/unsubscribe/x>' },
  });
  await transport.sendMail({ envelope: { from: 'post@s.example', to: ['maud@s.example'] }, raw });
  const message = arrived.toString('latin1');
  expect(verified(message)).toEqual({ body: true, signature: true, domain: 'k1.s.example' });
  expect(verified(message.replace('\r\n\r\n', '\r\n\r\nx')).body).toBe(false);
  expect(verified(message.replace('To: maud@', 'To: cid@')).signature).toBe(false);
});

test.each([
  ['is not there', join(folder, 'nowhere.pem')],
  ['is no key', join(folder, 'words.txt')],
])('where the key %s, nothing leaves unsigned, and it is said what to do', (_, file) => {
  writeFileSync(join(folder, 'words.txt'), 'no key');
  expect(() => door(file).way(settings() as MailSettings)).toThrow(
    /Emails must be signed, but .* contains no readable private key/,
  );
  expect(() => door(undefined).way(settings() as MailSettings)).toThrow(/there is no key/);
});
