import { STAND_IN_PICTURES } from '@carafe/contract';

const LIBRARY =
  /https?:\/\/[^\s"'()<>,]*?\/((?:library\/[\w-]{1,40}\/\d{1,4}x\d{1,4}(?:-play)?)(?!\d)|icons\/[a-z]+\/[0-9a-f]{6}\/[a-z]+\.png)/g;

/** Points the pictures of the library and of the demo's stand-in host at this server. */
export function localise(html: string): string {
  return html.replace(LIBRARY, '/pictures/$1').replaceAll(STAND_IN_PICTURES, '/pictures/');
}
