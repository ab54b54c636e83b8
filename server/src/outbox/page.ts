import type { Shop } from '@carafe/contract';
import { escapeHtml } from '@carafe/core/render';
import { HOUSE_STYLE, HouseStyle } from '@carafe/core/template';
import type { Response } from 'express';
import { pageWords, type PageSentence } from './pageWords';

/** Pages that somebody opens from a mail: no scripts, nothing from elsewhere but pictures. */
export const PAGE_POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; img-src http: https: data:; form-action 'self'; frame-ancestors 'none'; base-uri 'none'";

/** The house style as a page has it. */
function cssOf(style: HouseStyle): string {
  const { background, surface, ink, quiet, primary, on_primary, rule, radius } = style;
  const { heading_font, body_font, text_size } = style;
  return `:root{color-scheme:light}body{margin:0;background:${background};color:${ink};font:${text_size}px/1.5 ${body_font}}
main{max-width:30rem;margin:12vh auto;padding:2rem;background:${surface};border:1px solid ${rule};border-radius:${radius}px}
h1{font:400 1.6rem/1.25 ${heading_font};margin:0 0 .75rem}p{margin:.5rem 0}button{font:inherit;margin-top:1rem;
padding:.6rem 1.2rem;border:0;border-radius:${radius}px;background:${primary};color:${on_primary};cursor:pointer}
button:focus-visible,input:focus-visible{outline:3px solid ${ink};outline-offset:2px}
input{accent-color:${primary}}label{display:block;margin:.4rem 0}small{color:${quiet}}`;
}

/** Pages of a shop in the style of its mails; `styleOf` gives it as it is stored, or nothing. */
export function pagesInStyle(styleOf: (shop: string) => unknown) {
  /**
   * Answers with a page in the language of the shop; of no shop where it is not known whose it would be. `body` gives
   * HTML from sentences.
   */
  function page(
    response: Response,
    title: PageSentence,
    shop: Shop | null,
    body: (say: (sentence: PageSentence) => string) => string,
    status = 200,
  ): void {
    const { language, say } = pageWords(shop?.locale);
    const heading = escapeHtml(say(title));
    const name = escapeHtml(shop?.name ?? 'Mail');
    const read = HouseStyle.safeParse(shop && styleOf(shop.id));
    response
      .status(status)
      .set('content-security-policy', PAGE_POLICY)
      .set('cache-control', 'no-store')
      .set('referrer-policy', 'no-referrer')
      .type('html').send(`<!doctype html>
<html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<meta name="robots" content="noindex"><title>${heading} · ${name}</title>
<style>
${cssOf(read.success ? read.data : HOUSE_STYLE)}
</style></head><body><main><h1>${heading}</h1>${body((sentence) => escapeHtml(say(sentence)))}<p><small>${name}</small></p></main></body></html>`);
  }
  const cutOff = (response: Response, status = 404): void =>
    page(response, 'linkDoesNotWork', null, (say) => `<p>${say('linkWasCutOff')}</p>`, status);
  return { page, cutOff };
}
