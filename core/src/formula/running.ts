import type { Node, Span } from './ast';
import { compile, evaluate } from './compile';
import type { Context } from './context';
import { FormulaError } from './lex';
import { printValue } from './members';
import { parseBraced, problemOf, type Parsed } from './parse';

/** A piece of running text: words as they stand, or a formula between double braces. */
export type Segment = Span &
  ({ type: 'words'; text: string } | { type: 'tag'; node: Node; source: string });

/** Cuts running text at its merge tags. An unclosed `{{` is told with its column. */
export function parseRunning(text: string): Parsed<Segment[]> {
  const segments: Segment[] = [];
  let at = 0;
  while (at < text.length) {
    const open = text.indexOf('{{', at);
    const end = open < 0 ? text.length : open;
    if (end > at) segments.push({ type: 'words', text: text.slice(at, end), start: at, end });
    if (open < 0) break;
    try {
      const { node, end: close } = parseBraced(text, open + 2);
      if (!text.slice(0, close).endsWith('}}')) throw unclosed(open);
      const source = text.slice(open + 2, close - 2).trim();
      segments.push({ type: 'tag', node, source, start: open, end: close });
      at = close;
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error;
      const problem = text.indexOf('}}', open) < 0 ? unclosed(open) : error;
      return { ok: false, error: problemOf(text, problem) };
    }
  }
  return { ok: true, value: segments };
}

function unclosed(open: number): FormulaError {
  return new FormulaError(
    'This merge tag is never closed: two closing braces are missing.',
    open,
    open + 2,
  );
}

/** Running text as it prints for one recipient, unescaped. Undefined when it does not parse. */
export function printRunning(text: string, context: Context): string | undefined {
  const parsed = parseRunning(text);
  if (!parsed.ok) return undefined;
  return parsed.value
    .map((s) =>
      s.type === 'words' ? s.text : printValue(evaluate(compile(s.node), context), context),
    )
    .join('');
}
