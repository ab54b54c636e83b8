import { STAND_IN_PICTURES } from '@carafe/contract';

/** Points the pictures of the demo's stand-in host at this server. */
export function localise(html: string): string {
  return html.replaceAll(STAND_IN_PICTURES, '/pictures/');
}
