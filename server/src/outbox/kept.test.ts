import { brotliCompressSync, deflateSync } from 'node:zlib';
import fc from 'fast-check';
import { mailAt, messageKept, packsOf, trailKept, unpackedMails } from './kept';
import { bytesOf, messageOf, mimeOf, type MessagePart } from './mime';

// What is kept of a message comes back to the byte.

const words = fc.string({ unit: 'binary-ascii', maxLength: 300 });
const body = fc.uint8Array({ maxLength: 3_000 }).map((bytes) => Buffer.from(bytes));
const parts = fc.array(fc.oneof<[typeof words, typeof body]>(words, body), { maxLength: 6 });
const trail = fc.array(fc.record({ node: fc.string(), value: fc.jsonValue() }), { maxLength: 4 });
const mails = fc.array(
  fc.record({ message: parts, trail }).map((kept) => ({ kept })),
  { maxLength: 5 },
);

/** What a value is in JSON: what JSON does not tell apart is the same. */
const asJson = (value: unknown) => JSON.parse(JSON.stringify(value)) as unknown;

test('every mail of a pack comes back as it was, with its trail', () => {
  fc.assert(
    fc.property(mails, (given) => {
      const back = packsOf(given).flatMap(({ bytes, mails: of }) =>
        of.map((_, place) => mailAt(unpackedMails(bytes), place)),
      );
      expect(back).toEqual(
        given.map(({ kept }) => ({
          source: bytesOf(kept.message),
          trail: asJson(kept.trail),
        })),
      );
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

test('mails that are alike are kept in a tenth of the room that each alone takes', () => {
  const given = Array.from({ length: 50 }, (_, i) => ({
    kept: { message: messageOf({ ...MAIL, subject: `For ${i}` }), trail: [] },
  }));
  const [pack, another] = packsOf(given);
  const [alone] = packsOf(given.slice(0, 1));
  expect(another).toBeUndefined();
  expect(pack?.bytes.length).toBeLessThan((alone?.bytes.length ?? 0) * 5);
});

test('whoever opens one mail does not unpack more than some', () => {
  const big = { kept: { message: [Buffer.alloc(900_000, 'x')] as MessagePart[], trail: [] } };
  expect(packsOf(Array.from({ length: 7 }, () => big)).map(({ mails: of }) => of.length)).toEqual([
    3, 3, 1,
  ]);
  expect(packsOf([])).toEqual([]);
});

test('a place that a pack does not have is an error, never another mail', () => {
  const [pack] = packsOf([{ kept: { message: ['a'], trail: [] } }]);
  expect(() => mailAt(unpackedMails(pack?.bytes ?? Buffer.alloc(0)), 1)).toThrow(/no email at 1/);
});

/** A part as it stands in what is kept: what it is, how long it is, and its bytes. */
function part(kind: number, bytes: Buffer): Buffer {
  const head = Buffer.alloc(5, kind);
  head.writeUInt32LE(bytes.length, 1);
  return Buffer.concat([head, bytes]);
}

test('mails that were kept before packs were are read', () => {
  const bytes = mimeOf(MAIL);
  const framed = Buffer.concat(
    messageOf(MAIL).map((one) =>
      typeof one === 'string' ? part(0, Buffer.from(one, 'latin1')) : part(1, one),
    ),
  );
  const each = {
    brotli: Buffer.concat([Buffer.of(2), brotliCompressSync(framed)]),
    'deflated parts': Buffer.concat([Buffer.of(1), deflateSync(framed)]),
    'deflated bytes': deflateSync(bytes),
  };
  for (const kept of Object.values(each)) expect(messageKept(kept).equals(bytes)).toBe(true);
  const old = [{ is: 'value', node: 'n1', value: 'Für Maud' }];
  expect(trailKept(deflateSync(JSON.stringify(old)))).toEqual(old);
});
