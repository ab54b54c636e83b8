import { deflateSync, inflateSync } from 'node:zlib';
import { bytesOf, type MessagePart } from './mime';

/** A mail as it is kept in the database. */
export interface KeptMail {
  source: Buffer;
  trail: Buffer;
}

/**
 * How what is kept of a message begins: with its parts, bodies as they are. Base64 packs badly: kept so it takes half
 * of the room and of the time. What begins as deflate does (RFC 1950) are the bytes of the message themselves.
 */
const PARTS = 1;
const FAST = { level: 1 };
/** Before each part: whether it is a body, and how many bytes it has. */
const HEAD = 5;

/** Packs a message and its trail; to be done where nobody waits for it. */
export function keptMail(parts: readonly MessagePart[], trail: unknown): KeptMail {
  const pieces = parts.flatMap((part) => {
    const isBody = typeof part !== 'string';
    const bytes = isBody ? part : Buffer.from(part, 'latin1');
    const head = Buffer.allocUnsafe(HEAD);
    head.writeUInt8(isBody ? 1 : 0);
    head.writeUInt32LE(bytes.length, 1);
    return [head, bytes];
  });
  return {
    source: Buffer.concat([Buffer.of(PARTS), deflateSync(Buffer.concat(pieces), FAST)]),
    trail: deflateSync(JSON.stringify(trail), FAST),
  };
}

/** The bytes of a message that was kept, each as it was. */
export function messageKept(source: Buffer): Buffer {
  if (source[0] !== PARTS) return inflateSync(source);
  const all = inflateSync(source.subarray(1));
  const parts: MessagePart[] = [];
  for (let at = 0; at < all.length;) {
    const length = all.readUInt32LE(at + 1);
    const bytes = all.subarray(at + HEAD, at + HEAD + length);
    parts.push(all[at] === 1 ? bytes : bytes.toString('latin1'));
    at += HEAD + length;
  }
  return bytesOf(parts);
}

/** The trail that was kept with it. */
export const trailKept = (trail: Buffer): unknown =>
  JSON.parse(inflateSync(trail).toString('utf8')) as unknown;
