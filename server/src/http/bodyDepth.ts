import { Refusal } from './errors';

/** JSON is nested so deep at most; templates and records need far less. */
export const MOST_NESTED = 100;

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN, CLOSE] = [0x22, 0x5c, 0x5b, 0x5d, 0x7b, 0x7d];

/** Refuses JSON that is nested too deep, before anything reads it. In one pass over its bytes. */
export function refuseDeep(body: Uint8Array): void {
  let depth = 0;
  let isText = false;
  for (let i = 0; i < body.length; i++) {
    const byte = body[i];
    if (isText) {
      if (byte === BACKSLASH) i++;
      else if (byte === QUOTE) isText = false;
    } else if (byte === QUOTE) isText = true;
    else if (byte === OPEN_LIST || byte === OPEN) {
      if (++depth > MOST_NESTED)
        throw new Refusal(
          400,
          `This JSON is nested more than ${MOST_NESTED} levels deep, which is more than Carafe accepts. Nothing was changed.`,
        );
    } else if (byte === CLOSE_LIST || byte === CLOSE) depth--;
  }
}
