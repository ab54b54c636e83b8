import type { Writer } from '../build/writer';
import { libraryPicture } from '../picture';
import type { ProductNote } from '../library/notes';
import { imageHtml } from './image';
import { richHtml, richPlain } from './rich';

/** Pictures of notes are so wide at most. */
const WIDTH = 120;

/** A product note as HTML: its picture, title, words and link. */
export function noteHtml({ title, text, image, link }: ProductNote, writer: Writer): string {
  const { style, start, finish } = writer;
  const path = 'shown';
  const width = Math.min(WIDTH, libraryPicture(image)?.width ?? WIDTH);
  const picture =
    image.trim() === ''
      ? ''
      : writer.ifAddress(
          image,
          path,
          'picture',
          `<td width="${width}" valign="top" style="width:${width}px;padding-${finish}:14px">${imageHtml({ src: image, alt: '', paths: { src: path, alt: path }, width, corners: style.radius }, writer)}</td>`,
        );
  const head =
    title.trim() === ''
      ? ''
      : `<div style="font-weight:bold;padding-bottom:4px">${writer.link(link, writer.running(title, 'html', path), path)}</div>`;
  return `<table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%"><tr>${picture}<td valign="top" align="${start}" style="padding:0;font-family:${style.body_font};font-size:${style.text_size - 1}px;line-height:1.5;color:${style.ink}">${head}${richHtml(text, writer, path)}</td></tr></table>`;
}

/** The same as plain text. */
export function notePlain({ title, text, link }: ProductNote, writer: Writer): string {
  const path = 'shown';
  const head = title.trim() === '' ? '' : `${writer.running(title, 'plain', path)}\n`;
  const address =
    link.trim() === ''
      ? ''
      : writer.ifAddress(link, path, 'link', `\n${writer.url(link, path, 'link', 'plain')}`);
  return `${head}${richPlain(text, writer, path)}${address}`;
}
