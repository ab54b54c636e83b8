import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  renameSync,
  rmSync,
} from 'node:fs';
import { join } from 'node:path';
import {
  cropTo,
  iconSvg,
  isSvg,
  playMarkSvg,
  svgProblem,
  type Focus,
  type IconKind,
  type IconShape,
} from '@carafe/core/picture';
import sharp from 'sharp';
import { Refusal } from '../http/errors';
import { drawSvg } from './drawSvg';
import type { StoredPicture } from './repository';

/** What can be shown in a mail; anything else is drawn anew as one of them. */
const SHOWN = new Set(['jpeg', 'png', 'webp', 'gif']);
const NO_PICTURE =
  'This is not a picture that can be read. Send a JPEG, PNG, GIF, WebP or SVG file.';
/** A picture may have so many pixels: more would take the memory of the machine. */
const MAX_PIXELS = 80_000_000;
/** An SVG has no size of its own that matters: it is drawn this wide at most. */
const SVG_WIDTH = 1600;
/** So many drawn sizes are kept of a picture. */
const MOST_KEPT = 100;
const MOST_ICONS = 2000;
/** So many bytes of a file say whether it is an SVG with a script; it is drawn in any case, never run. */
const LOOKED_AT = 100_000;

type Facts = Pick<StoredPicture, 'type' | 'width' | 'height'>;
const open = (file: string, animated = false) =>
  sharp(file, { limitInputPixels: MAX_PIXELS, animated, failOn: 'error' });

/** The files of the library: what was sent, and what was drawn of it so far. */
export class PictureFiles {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }

  /** Where a file is received before it is looked at. */
  incoming(name: string): string {
    return join(this.folder, `incoming-${name}`);
  }

  private beginningOf(incoming: string): string {
    const beginning = Buffer.alloc(LOOKED_AT);
    const handle = openSync(incoming, 'r');
    try {
      const read = readSync(handle, beginning, 0, LOOKED_AT, 0);
      return beginning.toString('latin1', 0, read).replace(/^\u00ef\u00bb\u00bf/, '');
    } finally {
      closeSync(handle);
    }
  }

  /** Whether a file is an SVG that carries a script, by its beginning. */
  isScriptedSvg(incoming: string): boolean {
    const text = this.beginningOf(incoming);
    return /<svg[\s>]/i.test(text) && /<script|\son\w+\s*=|javascript:/i.test(text);
  }

  forgetIncoming(incoming: string): void {
    rmSync(incoming, { force: true });
  }

  private original = (id: string) => join(this.folder, `${id}.original`);
  private drawn = (id: string) => join(this.folder, id);

  /** Looks at a file that was received and keeps it as a picture. Refuses what is none; nothing is left then. */
  async keep(incoming: string, id: string): Promise<Facts> {
    const readable = `${incoming}.drawn`;
    try {
      const facts = await this.readable(incoming, readable);
      renameSync(existsSync(readable) ? readable : incoming, this.original(id));
      this.forgetDrawn(id);
      return facts;
    } catch (error) {
      if (error instanceof Refusal) throw error;
      const said = error instanceof Error ? error.message : '';
      if (/pixel limit/i.test(said))
        throw new Refusal(413, 'This picture has more than 80 million pixels. Make it smaller.');
      throw new Refusal(422, NO_PICTURE);
    } finally {
      for (const file of [incoming, readable]) rmSync(file, { force: true });
    }
  }

  private async readable(file: string, to: string): Promise<Facts> {
    // An SVG says what is to be drawn: it is looked at before anything draws it, and drawn by itself.
    if (isSvg(this.beginningOf(file))) {
      const problem = svgProblem(readFileSync(file, 'utf8'));
      if (problem !== null) throw new Refusal(422, problem);
      return { type: 'png', ...(await drawSvg(file, to, SVG_WIDTH)) };
    }
    const { format, autoOrient, hasAlpha } = await open(file).metadata();
    if (format === 'svg') throw new Refusal(422, NO_PICTURE);
    // Reads all of it: a file that is cut short is refused now, not when a mail shows it.
    await open(file).stats();
    const { width, height } = autoOrient;
    if (SHOWN.has(format)) return { type: format as Facts['type'], width, height };
    const type = hasAlpha ? 'png' : 'jpeg';
    const made = await open(file).autoOrient().toFormat(type).toFile(to);
    return { type, width: made.width, height: made.height };
  }

  /** The file of a picture at a size, drawn where it is not yet. */
  async at(
    picture: StoredPicture,
    { width, height, isMarked }: { width: number; height: number; isMarked: boolean },
  ): Promise<string> {
    const { id, version, type, focus } = picture;
    const folder = this.drawn(id);
    const file = join(folder, `${version}-${width}x${height}${isMarked ? '-play' : ''}.${type}`);
    if (existsSync(file)) return file;
    mkdirSync(folder, { recursive: true });
    if (readdirSync(folder).length >= MOST_KEPT) rmSync(folder, { recursive: true });
    mkdirSync(folder, { recursive: true });
    const part = `${file}.${process.hrtime.bigint()}`;
    const drawn = await this.draw(picture, { width, height }, focus);
    const mark = { input: Buffer.from(playMarkSvg(width, height)) };
    await (isMarked ? drawn.composite([mark]) : drawn).toFile(part);
    renameSync(part, file);
    return file;
  }

  async icon(kind: IconKind, shape: IconShape, colour: string): Promise<string> {
    const folder = join(this.folder, 'icons');
    const file = join(folder, `${kind}-${shape}-${colour.slice(1)}.png`);
    if (existsSync(file)) return file;
    mkdirSync(folder, { recursive: true });
    if (readdirSync(folder).length >= MOST_ICONS) rmSync(folder, { recursive: true });
    mkdirSync(folder, { recursive: true });
    const part = `${file}.${process.hrtime.bigint()}`;
    await sharp(Buffer.from(iconSvg(kind, shape, colour)))
      .png()
      .toFile(part);
    renameSync(part, file);
    return file;
  }

  private async draw(
    { id, type }: StoredPicture,
    size: { width: number; height: number },
    focus: Focus,
  ) {
    // By the file itself: a stop while it was replaced may have left another size on record.
    const { autoOrient } = await open(this.original(id)).metadata();
    const crop = cropTo(autoOrient, size.width / size.height, focus);
    const cut = open(this.original(id), type === 'gif')
      .autoOrient()
      .extract(crop);
    const sized = cut.resize({ ...size, fit: 'fill' });
    if (type === 'jpeg') return sized.jpeg({ quality: 82, mozjpeg: true });
    return type === 'png' ? sized.png({ palette: true }) : sized.toFormat(type);
  }

  private forgetDrawn(id: string): void {
    rmSync(this.drawn(id), { recursive: true, force: true });
  }

  forget(id: string): void {
    this.forgetDrawn(id);
    rmSync(this.original(id), { force: true });
  }
}
