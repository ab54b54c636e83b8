import { brotliCompressSync, brotliDecompressSync, constants, inflateSync } from 'node:zlib';
import { bytesOf, type MessagePart } from './mime';

/** A mail as it was filled, to be kept. */
export interface MailToKeep {
  message: readonly MessagePart[];
  trail: readonly object[];
}

/** Mails that are kept together: they are much alike, and take a tenth of the room that each alone would. */
export interface Pack<Kept> {
  bytes: Buffer;
  mails: Kept[];
}

/**
 * What is kept begins with how it is packed. Of a message its parts are kept, bodies as they are: base64 packs badly,
 * and takes twice the room and the time. A mail that was kept before packs were has a message and a trail of its own,
 * in Brotli or deflated; what begins as deflate does (RFC 1950) are the bytes of a message themselves.
 */
const DEFLATED_PARTS = 1;
const BROTLI = 2;
/** Brotli (RFC 7932) at the quality that packs what is alike in the least time. */
const FAST = { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } };
/** Whoever opens one mail of a pack unpacks all of it: it is closed when it has so many bytes. */
const PACK_BYTES = 2_000_000;

/** Before each part: what it is, and how many bytes it has. */
const HEAD = 5;
/** What a part is: words of a message, a body, or the trail that ends a mail. */
const [WORDS, BODY, TRAIL] = [0, 1, 2];

/** How an entry of a trail is written; what a list of the shop’s put into many mails is the same entry in all of them. */
const written = new WeakMap<object, string>();
function json(entry: object): string {
  let text = written.get(entry);
  if (text === undefined) written.set(entry, (text = JSON.stringify(entry)));
  return text;
}

const packed = (bytes: readonly Buffer[]): Buffer =>
  Buffer.concat([Buffer.of(BROTLI), brotliCompressSync(Buffer.concat(bytes), FAST)]);

function unpacked(kept: Buffer): Buffer {
  if (kept[0] === BROTLI) return brotliDecompressSync(kept.subarray(1));
  return inflateSync(kept[0] === DEFLATED_PARTS ? kept.subarray(1) : kept);
}

function headed(kind: number, bytes: Buffer): Buffer[] {
  const head = Buffer.allocUnsafe(HEAD);
  head.writeUInt8(kind);
  head.writeUInt32LE(bytes.length, 1);
  return [head, bytes];
}

const pieces = ({ message, trail }: MailToKeep): Buffer[] => [
  ...message.flatMap((part) =>
    typeof part === 'string' ? headed(WORDS, Buffer.from(part, 'latin1')) : headed(BODY, part),
  ),
  ...headed(TRAIL, Buffer.from(`[${trail.map(json).join(',')}]`)),
];

/** Packs mails in their order, those of about two megabytes together; to be done where nobody waits for it. */
export function packsOf<Kept extends { kept: MailToKeep }>(mails: readonly Kept[]): Pack<Kept>[] {
  const packs: Pack<Kept>[] = [];
  let [open, of, size]: [Buffer[], Kept[], number] = [[], [], 0];
  const close = () => {
    if (of.length > 0) packs.push({ bytes: packed(open), mails: of });
    [open, of, size] = [[], [], 0];
  };
  for (const mail of mails) {
    const all = pieces(mail.kept);
    open.push(...all);
    of.push(mail);
    size += all.reduce((sum, { length }) => sum + length, 0);
    if (size >= PACK_BYTES) close();
  }
  close();
  return packs;
}

/** The parts that stand one after the other, each with what it is. */
function* partsOf(all: Buffer): Generator<{ kind: number | undefined; bytes: Buffer }> {
  for (let at = 0; at < all.length;) {
    const end = at + HEAD + all.readUInt32LE(at + 1);
    yield { kind: all[at], bytes: all.subarray(at + HEAD, end) };
    at = end;
  }
}

const messagePart = ({ kind, bytes }: { kind: number | undefined; bytes: Buffer }): MessagePart =>
  kind === BODY ? bytes : bytes.toString('latin1');

const trailOf = (bytes: Buffer) => JSON.parse(bytes.toString('utf8')) as unknown;

/** What a pack holds, to take mails from. */
export const unpackedMails = (bytes: Buffer): Buffer => unpacked(bytes);

/** The mail at a place of a pack, counted from 0: its bytes as they were, and its trail. Throws where there is none. */
export function mailAt(mails: Buffer, place: number): { source: Buffer; trail: unknown } {
  const message: MessagePart[] = [];
  let left = place;
  for (const part of partsOf(mails)) {
    if (part.kind !== TRAIL) {
      if (left === 0) message.push(messagePart(part));
    } else if (left-- === 0) return { source: bytesOf(message), trail: trailOf(part.bytes) };
  }
  throw new Error(`The pack has no email at ${place}.`);
}

/** The bytes of a message that was kept by itself, each as it was. */
export function messageKept(source: Buffer): Buffer {
  const all = unpacked(source);
  if (source[0] !== BROTLI && source[0] !== DEFLATED_PARTS) return all;
  return bytesOf([...partsOf(all)].map(messagePart));
}

/** The trail that was kept with it. */
export const trailKept = (trail: Buffer): unknown => trailOf(unpacked(trail));
