import { explainProblem } from './habits';
import { parse, type Parsed } from './parse';
import { remember } from './remember';
import { parseRunning, type Segment } from './running';

/** The formulas of a designer's templates are asked for again and again. */
const KEPT = 5_000;

/**
 * Tells a problem in the words of whoever wrote it, where they may have meant something that is
 * written otherwise here. A repair takes the place of the whole formula, from `from` to `to`.
 */
function explained<T>(parsed: Parsed<T>, source: string, from = 0, to = source.length): Parsed<T> {
  if (parsed.ok) return parsed;
  const { error } = parsed;
  const { message, repair } = explainProblem(source.slice(from, to), error);
  if (!repair) return { ok: false, error: { ...error, message } };
  return { ok: false, error: { ...error, message, repair, start: from, end: to } };
}

/** `parse`, each formula once, its problems explained. What it gives is shared and never changed. */
export const parsedFormula = remember(KEPT, (source: string) => explained(parse(source), source));

/** `parseRunning`, each text once, likewise. */
export const parsedRunning = remember(KEPT, (text: string): Parsed<Segment[]> => {
  const parsed = parseRunning(text);
  if (parsed.ok) return parsed;
  const open = text.lastIndexOf('{{', parsed.error.start);
  const close = text.indexOf('}}', parsed.error.start);
  // A tag that is never closed is told as such.
  if (open < 0 || close < 0) return parsed;
  const inside = text.slice(open + 2, close);
  const from = open + 2 + (inside.length - inside.trimStart().length);
  return explained(parsed, text, from, from + inside.trim().length);
});
