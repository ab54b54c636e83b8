/** Encodings that files come in, by their names in the Encoding Standard. */
export const ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
export type Encoding = (typeof ENCODINGS)[number];

export const ENCODING_NAMES: Record<Encoding, string> = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16, little end first',
  'utf-16be': 'UTF-16, big end first',
  'windows-1252': 'Latin-1 (Windows-1252)',
};

/** Whether these bytes, which may be cut in the middle of a letter, are UTF-8. */
function isUtf8(bytes: Uint8Array): boolean {
  // The last letter may be cut off: at most three bytes of it stand at the end.
  for (let cut = 0; cut <= Math.min(3, bytes.length); cut++) {
    try {
      new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(0, bytes.length - cut));
      return true;
    } catch {
      continue;
    }
  }
  return false;
}

/** Finds the encoding from the first bytes of a file: by its mark, by zero bytes, by being sound. */
export function detectEncoding(bytes: Uint8Array): Encoding {
  const [a, b, c] = bytes;
  if (a === 0xef && b === 0xbb && c === 0xbf) return 'utf-8';
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  const looked = Math.min(bytes.length, 4096);
  let even = 0;
  let odd = 0;
  for (let i = 0; i < looked; i++) {
    if (bytes[i] !== 0) continue;
    if (i % 2) odd++;
    else even++;
  }
  // Western text in UTF-16 has a zero in nearly every second byte.
  if (odd > looked / 4 && even < looked / 16) return 'utf-16le';
  if (even > looked / 4 && odd < looked / 16) return 'utf-16be';
  return isUtf8(bytes) ? 'utf-8' : 'windows-1252';
}

/** Reads bytes as text; a byte order mark is left out, what is no letter becomes U+FFFD. */
export function decode(bytes: Uint8Array, encoding: Encoding): string {
  return new TextDecoder(encoding).decode(bytes);
}
