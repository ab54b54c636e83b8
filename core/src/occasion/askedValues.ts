import { compile, evaluate, print, sayCondition, type Node } from '../formula';
import type { Context, Explanation } from '../formula';

/** What a condition asked, as it was: a field in words; without a source, for how many of a list something held. */
export interface AskedValue {
  source: string;
  value: string;
}

const FIELD = /^(?:[\p{L}_](?:[\p{L}\p{Nd}_.]|\[\d+\])*|count\([^()]*\))$/u;

const inWords = (source: string): string =>
  source.replace(/^(?:person|occasion)\./, '').replaceAll(/[._]/g, ' ');

/** The parts of a condition that ask something of the members of a list. */
function ofMembers(node: Node): Node[] {
  if (node.type === 'not') return ofMembers(node.of);
  if (node.type === 'binary' && (node.op === 'and' || node.op === 'or'))
    return [...ofMembers(node.left), ...ofMembers(node.right)];
  return node.type === 'call' && /^(?:any|every)$/.test(node.name) ? [node] : [];
}

/** Of an explained condition its fields with their values, each once, and of how many of its lists it held. */
export function askedValues(node: Node, told: Explanation, context: Context): AskedValue[] {
  const members = ofMembers(node).map((asked) => {
    const held = evaluate(compile(asked), context) === true;
    return { source: '', value: sayCondition(asked, held, context) };
  });
  const seen = new Set<string>();
  const all = [...told.parts, { source: print(node), value: told.summary }];
  const fields = all.flatMap(({ source, value }) => {
    // A whole record says nothing, and of a list its members say more.
    const isSilent = value === 'a record' || (members.length > 0 && value.startsWith('a list of'));
    if (!FIELD.test(source) || isSilent || seen.has(source)) return [];
    seen.add(source);
    return [{ source: inWords(source), value }];
  });
  return [...fields, ...members];
}
