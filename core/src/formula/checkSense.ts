import type { Field, Shape } from '../shape';
import type { Node } from './ast';
import { nearestName } from './checkNames';
import type { SaidAt } from './checkRules';
import type { Typed } from './checkScope';
import { isZero } from './checkVerdict';
import { fold, toNumber } from './values';
import { print, quote } from './print';

/** Samples of a field that is text, none of which reads as a number; null where one does, or there are none. */
function wordsOnly({ type, field }: Typed): string | null {
  if (type.kind !== 'text' || !field) return null;
  const samples = field.values ?? field.samples;
  const [first] = samples;
  return first !== undefined && samples.every((one) => toNumber(one) === undefined) ? first : null;
}

/** Words that are multiplied, and what is divided by nothing. */
export function arithmeticNonsense(
  node: Node & { type: 'binary' },
  left: Typed,
  right: Typed,
): SaidAt | null {
  for (const [at, typed] of [[node.left, left] as const, [node.right, right] as const]) {
    const sample = wordsOnly(typed);
    if (sample === null) continue;
    const message = `“${print(at)}” is words, such as “${sample}”, and nothing can be calculated with them: this stays blank.`;
    return { at, severity: 'warning', message };
  }
  if (node.op !== '/' || !isZero(node.right)) return null;
  return {
    at: node.right,
    message: 'Nothing can be divided by 0: this stays blank for everybody.',
  };
}

const ADDED: readonly string[] = ['sum', 'average', 'min', 'max'];

/** The names of a record’s fields that hold numbers. */
const numbersIn = (shape: Shape): string[] =>
  shape.kind === 'record'
    ? Object.entries(shape.fields).flatMap(([name, field]) =>
        field.shape.kind === 'number' ? [name] : [],
      )
    : [];

/** Sums that add nothing up: of whole records, of words, of yes and no. */
export function sumNonsense(call: Node & { type: 'call' }, types: readonly Typed[]): SaidAt | null {
  const [list, what] = call.args;
  const [of] = types;
  if (!ADDED.includes(call.name) || !list || !of || call.args.length > 2) return null;
  const added: Typed | undefined = what
    ? types[1]
    : of.type.kind === 'list'
      ? { type: of.type.of, ...(of.ofMembers && { field: of.ofMembers }) }
      : undefined;
  if (!added) return null;
  const at = what ?? list;
  if (!what && added.type.kind === 'record') {
    const [number] = numbersIn(added.type);
    const text = number && `${call.name}(${print(list)}, ${number})`;
    const message = `“${print(list)}” is a list of records: say what “${call.name}” takes of each${
      text ? `, such as ${text}` : ''
    }.`;
    return { at: call, message, ...(text && { repair: { label: `Write ${text}`, text } }) };
  }
  const sample = wordsOnly(added);
  const isNone = { boolean: 'yes or no', list: 'a list', record: 'a record' };
  const kind = isNone[added.type.kind as keyof typeof isNone];
  const given = sample !== null ? `words, such as “${sample}”` : kind;
  if (given === undefined) return null;
  return {
    at,
    severity: 'warning',
    message: `“${print(at)}” is ${given}: there is no number in it for “${call.name}”, so this stays ${
      call.name === 'sum' ? 'at 0' : 'blank'
    }.`,
  };
}

/** A value that nobody has, of a field whose values are all known. */
export function unheardValue(
  node: Node & { type: 'binary' },
  left: Typed,
  right: Typed,
): SaidAt | null {
  if (node.op !== '=' && node.op !== '!=') return null;
  const [asked, known] =
    node.right.type === 'text' ? [node.right, left.field] : [node.left, right.field];
  if (asked.type !== 'text' || !known?.values || asked.value.trim() === '') return null;
  return unheardOf(asked, asked.value, known, node.op === '=');
}

function unheardOf(at: Node, value: string, { values = [] }: Field, holds: boolean): SaidAt | null {
  if (values.length === 0 || values.some((one) => fold(one.trim()) === fold(value.trim())))
    return null;
  const near = nearestName(value, values);
  const shown = values.slice(0, 4).map((one) => `“${one}”`);
  return {
    ...{ at, severity: 'hint' as const },
    message: `Nothing has the value “${value}” now, so this ${holds ? 'never' : 'always'} holds. There ${
      values.length === 1 ? 'is' : 'are'
    } ${shown.join(', ')}${values.length > shown.length ? ' and others' : ''}.`,
    ...(near !== undefined && { repair: { label: `Use “${near}”`, text: quote(near) } }),
  };
}

/** A list where an amount is meant: how many members it has is counted. */
export function listAsAmount(
  node: Node & { type: 'binary' },
  left: Typed,
  right: Typed,
): SaidAt | null {
  const [list, other] = left.type.kind === 'list' ? [node.left, right] : [node.right, left];
  const kinds = [left.type.kind, right.type.kind];
  if (!kinds.includes('list') || other.type.kind !== 'number') return null;
  if (['in', 'not in', 'contains'].includes(node.op)) return null;
  const text = `count(${print(list)})`;
  return {
    at: list,
    message: `“${print(list)}” is a list, not an amount. How many there are is ${text}.`,
    repair: { label: `Write ${text}`, text },
  };
}
