const SPECIAL = /[&<>"']/;
const ALL = /[&<>"']/g;
const ENTITY: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** Escapes for HTML text and for quoted attributes alike. */
export function escapeHtml(text: string): string {
  return SPECIAL.test(text) ? text.replace(ALL, (char) => ENTITY[char] ?? char) : text;
}

const LEFT_TO_RIGHT = /[A-Za-z0-9\u00c0-\u024f\u0370-\u058f]/;

/**
 * HTML of a value in a mail that reads from right to left: what is of another direction, such as “26 cm”, keeps
 * its order. By an attribute, not by Unicode's marks: a code that is copied holds nothing unseen.
 */
export function isolated(text: string): string {
  const html = escapeHtml(text);
  return LEFT_TO_RIGHT.test(text) ? `<span dir="auto">${html}</span>` : html;
}

/** For a part of a header: no control characters, which could begin another header. */
export function escapeHeader(text: string): string {
  return text.replace(/[\u0000-\u001f\u007f\u2028\u2029]+/g, ' ');
}

/** A whole header: one line without spaces at its ends, and none that follow each other. */
export function headerLine(text: string): string {
  return escapeHeader(text).replace(/ {2,}/g, ' ').trim();
}

const LINK = /^(?:https?:\/\/|mailto:|tel:)/i;
const PICTURE = /^https?:\/\//i;
/** Nothing to take out or to encode: the address of most links and pictures. */
const PLAIN = /^https?:\/\/[!-~]*$/;

/**
 * An address that may stand in a mail, or null: links to http, https, mailto and tel, pictures
 * from http and https. Control characters and spaces, with which a scheme can be hidden, are taken
 * out or encoded first.
 */
export function safeAddress(text: string, scheme: 'link' | 'picture'): string | null {
  if (PLAIN.test(text)) return text;
  const address = text
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .trim()
    .replace(/\s/g, '%20');
  return (scheme === 'link' ? LINK : PICTURE).test(address) ? address : null;
}
