import { STAND_IN_PICTURES } from '@carafe/contract';

const LIBRARY =
  /https?:\/\/[^\s"'()<>,]*?\/((?:library\/[\w-]{1,40}\/\d{1,4}x\d{1,4}(?:-play)?)(?!\d)|icons\/[a-z]+\/[0-9a-f]{6}\/[a-z]+\.png)/g;

/** Points the pictures of the library and of the demo's stand-in host at this server. */
export function localise(html: string): string {
  return html.replace(LIBRARY, '/pictures/$1').replaceAll(STAND_IN_PICTURES, '/pictures/');
}

/** A mail as its sender looks at it: that counts as no opening, and its links, as no click, lead nowhere. */
export function lookedAt(html: string): string {
  return localise(html)
    .replace(/<img [^>]*\/mail\/open\/[^>]*>/g, '')
    .replace(/<head[^>]*>/i, '$&<base target="_blank">');
}
