import { leftOut, rawHtml, rawText } from './rawHtml';
import { parsedFormula, parsedRunning } from '../formula';
import { escapeHeader, escapeHtml, headerLine, safeAddress } from '../render/escape';
import type { HouseStyle, Loop, Padding } from '../template/parts';
import type { Direction } from './direction';
import {
  withoutPlaceholders,
  type Grid,
  type Placeholders,
  type OutputPlace,
  type UrlPart,
} from './placeholders';

/** Something wrong with what a template says, found while building it. */
export interface BuildFinding {
  severity: 'error' | 'warning';
  /** The node's id; empty for the envelope. */
  node: string;
  path: string;
  /** 1-based column in the formula or text, where there is one. */
  column?: number;
  message: string;
}

/** Writes the pieces of one node, putting a placeholder wherever it fills itself. */
export class Writer {
  constructor(
    readonly style: HouseStyle,
    /** The width in pixels that the block has, for pictures and Outlook. */
    readonly width: number,
    private readonly placeholders: Placeholders,
    private readonly findings: BuildFinding[],
    private readonly node: string,
    readonly direction: Direction = 'ltr',
  ) {}

  find(
    path: string,
    message: string,
    column?: number,
    severity: 'error' | 'warning' = 'error',
  ): void {
    const found = {
      severity,
      node: this.node,
      path,
      message,
      ...(column !== undefined && { column }),
    };
    const same = (f: BuildFinding) =>
      f.node === found.node && f.path === path && f.message === message;
    // The HTML and the text part say the same; a designer needs it once.
    if (!this.findings.some(same)) this.findings.push(found);
  }

  private parses(formula: string, path: string): boolean {
    const parsed = parsedFormula(formula);
    if (!parsed.ok) this.find(path, parsed.error.message, parsed.error.column);
    return parsed.ok;
  }

  /** One value, escaped for its place. */
  value(formula: string, place: OutputPlace, path: string): string {
    if (!this.parses(formula, path)) return '';
    return this.placeholders.put({ is: 'value', formula, place, node: this.node, path });
  }

  /** Words with merge tags, escaped for their place. */
  running(text: string, place: OutputPlace, path: string): string {
    const parsed = parsedRunning(text);
    if (!parsed.ok) {
      this.find(path, parsed.error.message, parsed.error.column);
      return this.words(text, place);
    }
    const write = () =>
      parsed.value
        .map((s) =>
          s.type === 'words' ? this.words(s.text, place) : this.value(s.source, place, path),
        )
        .join('');
    if (place === 'attribute') return this.hidden(write);
    if (place !== 'html') return write();
    return this.hidden(() => {
      const written = write();
      if (written === '') return '';
      return this.placeholders.put({ is: 'field', path }) + written + this.end();
    });
  }

  /** HTML that MJML does not see: what it makes of the rest does not hang on it. */
  hidden(write: () => string): string {
    return this.placeholders.hide(write);
  }

  /** A designer's words, escaped for their place. */
  words(text: string, place: OutputPlace): string {
    const clean = withoutPlaceholders(text);
    if (place === 'html' || place === 'attribute') return this.hidden(() => escapeHtml(clean));
    return place === 'header' ? escapeHeader(clean) : clean;
  }

  /** The words and formulas of an address, or of what goes into one; null, and told, where they do not parse. */
  urlParts(text: string, path: string): UrlPart[] | null {
    const parsed = parsedRunning(text);
    if (!parsed.ok) {
      this.find(path, parsed.error.message, parsed.error.column);
      return null;
    }
    return parsed.value.map((s) =>
      s.type === 'words' ? { words: withoutPlaceholders(s.text) } : { formula: s.source },
    );
  }

  /** An address for href or src, or for the text part. What may not stand in a mail becomes empty. */
  url(
    text: string,
    path: string,
    scheme: 'link' | 'picture' = 'link',
    place: 'html' | 'plain' = 'html',
  ): string {
    const parts = this.urlParts(text, path);
    if (!parts) return '';
    if (parts.some((part) => 'formula' in part))
      return this.placeholders.put({ is: 'url', parts, scheme, place, node: this.node, path });
    const address = this.staticAddress(text, path, scheme);
    // Whether it is words, or is tagged or looked at, is known when the mail is put together.
    if (/^https?:/i.test(address)) {
      const words: UrlPart[] = [{ words: address }];
      return this.placeholders.put({
        is: 'url',
        parts: words,
        scheme,
        place,
        node: this.node,
        path,
      });
    }
    return place === 'html' ? escapeHtml(address) : address;
  }

  /** An address that is the same for all; empty, and told, where it may not stand in a mail. */
  private staticAddress(text: string, path: string, scheme: 'link' | 'picture'): string {
    const address = safeAddress(withoutPlaceholders(text), scheme);
    if (address === null && text.trim() !== '') {
      const kinds = scheme === 'link' ? 'https, http, mailto or tel' : 'https or http';
      this.find(path, `An address starts with ${kinds}; “${text.slice(0, 60)}” does not.`, 1);
    }
    return address ?? '';
  }

  /** A link round HTML where there is an address, else the HTML alone. */
  link(href: string | undefined, html: string, path: string, style = ''): string {
    if (!href?.trim()) return html;
    return this.ifAddress(
      href,
      path,
      'link',
      `<a href="${this.url(href, path)}" target="_blank" style="color:inherit;${style}">${html}</a>`,
      html,
    );
  }

  /**
   * `body` where an address that may stand in a mail is given, else `other`. `wrap` keeps the
   * placeholders where MJML would not.
   */
  ifAddress(
    text: string,
    path: string,
    scheme: 'link' | 'picture',
    body: string,
    other = '',
    wrap = (placeholder: string) => placeholder,
  ): string {
    const parts = this.urlParts(text, path);
    if (!parts || parts.length === 0) return other;
    if (!parts.some((part) => 'formula' in part))
      return this.staticAddress(text, path, scheme) === '' ? other : body;
    return this.branches(
      this.placeholders.put({ is: 'ifAddress', parts, scheme, node: this.node, path }),
      body,
      other,
      wrap,
    );
  }

  /** Opens what stands when a condition holds. One that does not parse never holds. */
  openWhen(formula: string, path: string): string {
    const asked = this.parses(formula, path) ? formula : 'false';
    return this.placeholders.put({ is: 'condition', formula: asked, node: this.node, path });
  }

  /** Turns to what stands when it does not. */
  otherwise(): string {
    return this.placeholders.put({ is: 'else' });
  }

  end(): string {
    return this.placeholders.put({ is: 'end' });
  }

  /** `body` where a condition holds, else `other`. */
  when(formula: string, path: string, body: string, other = ''): string {
    return this.branches(this.openWhen(formula, path), body, other);
  }

  private branches(
    open: string,
    body: string,
    other: string,
    wrap = (placeholder: string) => placeholder,
  ): string {
    return wrap(open) + body + (other && wrap(this.otherwise()) + other) + wrap(this.end());
  }

  /** Opens what stands once for each member. A loop that does not parse has no members. */
  openLoop(loop: Loop, path: string, grid?: Grid): string {
    const formulas: [string | undefined, string][] = [
      [loop.list, 'list'],
      [loop.where, 'where'],
      [loop.sort?.by, 'sort.by'],
      [loop.fill, 'fill'],
    ];
    const sound = formulas.every(
      ([f, name]) => f === undefined || this.parses(f, `${path}.${name}`),
    );
    const walked = sound ? loop : { list: 'missing', as: loop.as };
    return this.placeholders.put({
      is: 'loop',
      loop: walked,
      node: this.node,
      path,
      ...(grid && { grid }),
    });
  }

  /** `body` once for each member. */
  loop(loop: Loop, path: string, body: string, grid?: Grid): string {
    return this.openLoop(loop, path, grid) + body + this.end();
  }

  /** HTML of a designer's own: cleaned, with its merge tags live. What cannot stand in a mail is told. */
  rawHtml(source: string, path: string): string {
    const names = leftOut(source);
    if (names.length > 0)
      this.find(
        path,
        `“${names.slice(0, 5).join('”, “')}” cannot stand in an email and ${names.length === 1 ? 'is' : 'are'} left out.`,
        undefined,
        'warning',
      );
    return rawHtml(source, path, this);
  }

  /** The words of the same. */
  rawText(source: string, path: string): string {
    return rawText(source, path, this);
  }

  openNode(): string {
    return this.placeholders.put({ is: 'node', node: this.node });
  }

  /** The side on which lines of the mail's language begin, and the one on which they end. */
  get start(): 'left' | 'right' {
    return this.direction === 'rtl' ? 'right' : 'left';
  }

  get finish(): 'left' | 'right' {
    return this.direction === 'rtl' ? 'left' : 'right';
  }

  /** Padding as MJML and CSS write it. */
  padding(padding: Padding | undefined, top = 8, bottom = 8): string {
    return `${padding?.top ?? top}px 24px ${padding?.bottom ?? bottom}px`;
  }
}

/** A subject or name that is all words, as a header may carry it. */
export function headerWords(text: string): string {
  return headerLine(withoutPlaceholders(text));
}
