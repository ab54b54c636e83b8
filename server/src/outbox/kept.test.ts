import { deflateSync } from 'node:zlib';
import fc from 'fast-check';
import { keptMail, messageKept, trailKept } from './kept';
import { bytesOf, messageOf, mimeOf, type MessagePart } from './mime';

// What is kept of a message comes back to the byte.

const words = fc.string({ unit: 'binary-ascii', maxLength: 300 });
const body = fc.uint8Array({ maxLength: 3_000 }).map((bytes) => Buffer.from(bytes));
const parts = fc.array(fc.oneof<[typeof words, typeof body]>(words, body), { maxLength: 6 });

test('any message comes back as it was', () => {
  fc.assert(
    fc.property(parts, (given: MessagePart[]) => {
      expect(messageKept(keptMail(given, []).source).equals(bytesOf(given))).toBe(true);
    }),
  );
});

const MAIL = {
  from: { name: 'Quillmoss Seed House', address: 'post@s.example' },
  to: { name: '', address: 'maud@s.example' },
  ...{ subject: 'Für Maud', date: new Date('2026-11-26T09:00:00Z') },
  ...{ messageId: '<abc@s.example>', headers: {} },
  text: 'Hello',
  html: Array.from(
    { length: 300 },
    (_, i) => `<p>Row ${(i * 7919) % 1000}: ${(i * 31) % 97}</p>`,
  ).join(''),
};

test('a mail is kept in less room than its bytes packed take, and one that was kept so is read', () => {
  const bytes = mimeOf(MAIL);
  const { source } = keptMail(messageOf(MAIL), []);
  const before = deflateSync(bytes, { level: 1 });
  expect(source.length).toBeLessThan(before.length * 0.9);
  expect(messageKept(source).equals(bytes)).toBe(true);
  expect(messageKept(before).equals(bytes)).toBe(true);
});

test('a trail comes back as it was', () => {
  const trail = [{ is: 'value', node: 'n1', value: 'Für Maud' }];
  expect(trailKept(keptMail([], trail).trail)).toEqual(trail);
});
