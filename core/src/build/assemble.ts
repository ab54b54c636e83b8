import { escapeHtml } from '../render/escape';
import type { Loop } from '../template/parts';
import type { Filled, Placeholders, UrlPart } from './placeholders';
import type { AddressPart, LoopProgram, Op } from './program';

/** Collects formulas, each once. */
export class Formulas {
  readonly sources: string[] = [];
  private readonly known = new Map<string, number>();

  index(source: string): number {
    let index = this.known.get(source);
    if (index === undefined) {
      index = this.sources.push(source) - 1;
      this.known.set(source, index);
    }
    return index;
  }
}

/** Words and formulas of an address, or of what goes into one. */
export function addressParts(parts: UrlPart[], formulas: Formulas): AddressPart[] {
  return parts.map((part) => ('words' in part ? part.words : formulas.index(part.formula)));
}

function loopProgram(loop: Loop, formulas: Formulas): LoopProgram {
  return {
    list: formulas.index(loop.list),
    as: loop.as,
    ...(loop.where && { where: formulas.index(loop.where) }),
    ...(loop.sort && {
      by: formulas.index(loop.sort.by),
      down: loop.sort.direction === 'descending',
    }),
    ...(loop.at_most && { atMost: loop.at_most }),
    ...(loop.fill && { fill: formulas.index(loop.fill) }),
    ...(loop.once && { once: true as const }),
  };
}

/**
 * Cuts a text at its placeholders and nests what stands between an opening placeholder and its end. An address
 * that is the same for all is words, but where addresses are kept as operations: to be tagged, or looked at.
 */
export function assemble(
  text: string,
  placeholders: Placeholders,
  formulas: Formulas,
  keepsAddresses = false,
): Op[] {
  const pieces = placeholders.cut(text);
  let at = 0;

  const sequence = (): Op[] => {
    const ops: Op[] = [];
    for (; at < pieces.length; at++) {
      const piece = pieces[at] as string | Filled;
      if (typeof piece === 'string') ops.push(piece);
      else if (piece.is === 'end' || piece.is === 'else') break;
      else {
        at++;
        ops.push(operation(piece));
      }
    }
    return ops;
  };

  /** Reads up to the end of what was opened; the else part is empty where there is none. */
  const branches = (): [Op[], Op[]] => {
    const then = sequence();
    const piece = pieces[at];
    if (typeof piece !== 'object' || piece.is !== 'else') return [then, []];
    at++;
    return [then, sequence()];
  };

  const operation = (placeholder: Exclude<Filled, { is: 'end' | 'else' }>): Op => {
    switch (placeholder.is) {
      case 'value':
        at--;
        return {
          op: 'value',
          formula: formulas.index(placeholder.formula),
          place: placeholder.place,
          node: placeholder.node,
          path: placeholder.path,
        };
      case 'url':
        at--;
        if (!keepsAddresses && placeholder.parts.every((part) => 'words' in part)) {
          const address = placeholder.parts.map((part) => part.words).join('');
          return placeholder.place === 'html' ? escapeHtml(address) : address;
        }
        return {
          op: 'address',
          parts: addressParts(placeholder.parts, formulas),
          scheme: placeholder.scheme,
          place: placeholder.place,
          node: placeholder.node,
          path: placeholder.path,
        };
      case 'ifAddress': {
        const [then, other] = branches();
        const { scheme, node, path } = placeholder;
        const parts = addressParts(placeholder.parts, formulas);
        return { op: 'ifAddress', parts, scheme, node, path, then, else: other };
      }
      case 'condition': {
        const [then, other] = branches();
        return {
          op: 'condition',
          formula: formulas.index(placeholder.formula),
          node: placeholder.node,
          path: placeholder.path,
          then,
          else: other,
        };
      }
      case 'loop': {
        const body = sequence();
        return {
          op: 'loop',
          loop: loopProgram(placeholder.loop, formulas),
          node: placeholder.node,
          path: placeholder.path,
          body,
          ...(placeholder.grid && { grid: placeholder.grid }),
        };
      }
      case 'node':
        return { op: 'node', node: placeholder.node, body: sequence() };
      case 'field':
        return { op: 'field', path: placeholder.path, body: sequence() };
    }
  };

  const ops = sequence();
  if (at < pieces.length)
    throw new Error('The placeholders of an email do not nest; this is a fault in build.');
  return ops;
}
