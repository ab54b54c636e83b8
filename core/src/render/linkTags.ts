import { fieldOf, isRecord, type Context, type Value } from '../formula';
import type { Filling, LinkTagValue } from './filling';
import { inFrame } from './loop';

/**
 * An address of the web with parameters added, before its fragment. One that it has already stays as it is, and
 * one whose value is blank is left out. Addresses of other kinds (mailto, tel) come back as they are.
 */
export function withLinkTags(address: string, tags: readonly LinkTagValue[]): string {
  if (!/^https?:/i.test(address)) return address;
  const hash = address.indexOf('#');
  const before = hash < 0 ? address : address.slice(0, hash);
  const asked = before.indexOf('?');
  const there = asked < 0 ? '' : before.slice(asked + 1);
  const known = new Set(there.split('&').map((pair) => pair.split('=', 1)[0]));
  const added = tags
    .filter(({ parameter, value }) => value !== '' && !known.has(parameter))
    .map(({ parameter, value }) => `${parameter}=${encoded(value)}`)
    .join('&');
  if (added === '') return address;
  const joint = asked < 0 ? '?' : there === '' || there.endsWith('&') ? '' : '&';
  return before + joint + added + (hash < 0 ? '' : address.slice(hash));
}

/** Half a surrogate pair, which text that was cut may hold, cannot be encoded. */
const encoded = (value: string) => encodeURIComponent(value.toWellFormed());

/** Whether an address is one of the recipient's own links (unsubscribe and its kin), which lead to no shop. */
export function isOwnLink(record: Value, address: string): boolean {
  const links = isRecord(record) ? fieldOf(record, 'links') : undefined;
  if (!isRecord(links)) return false;
  return Object.values(links).includes(address);
}

/** Tags the links of a mail: what they carry is the same all over it, and is reckoned once, outside any loop. */
export function linkTagger(
  tags: readonly { parameter: string; text: (context: Context) => string }[],
): (address: string, filling: Filling) => string {
  return (address, f) => {
    const { context } = f;
    f.linkTags ??= inFrame(context, null, () =>
      tags.map(({ parameter, text }) => ({ parameter, value: text(context).trim() })),
    );
    f.tagged?.push(address);
    return isOwnLink(context.record, address) ? address : withLinkTags(address, f.linkTags);
  };
}
