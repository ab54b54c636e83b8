import type { Loop } from '../template/parts';
import type { Mark, Marks, UrlPart } from './marks';
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

function addressParts(parts: UrlPart[], formulas: Formulas): AddressPart[] {
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
  };
}

/** Cuts a text at its marks and nests what stands between an opening mark and its end. */
export function assemble(text: string, marks: Marks, formulas: Formulas): Op[] {
  const pieces = marks.cut(text);
  let at = 0;

  const sequence = (): Op[] => {
    const ops: Op[] = [];
    for (; at < pieces.length; at++) {
      const piece = pieces[at] as string | Mark;
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

  const operation = (mark: Exclude<Mark, { is: 'end' | 'else' }>): Op => {
    switch (mark.is) {
      case 'value':
        at--;
        return {
          op: 'value',
          formula: formulas.index(mark.formula),
          place: mark.place,
          node: mark.node,
          path: mark.path,
        };
      case 'url':
        at--;
        return {
          op: 'address',
          parts: addressParts(mark.parts, formulas),
          scheme: mark.scheme,
          place: mark.place,
          node: mark.node,
        };
      case 'given': {
        const [then, other] = branches();
        return { op: 'given', parts: addressParts(mark.parts, formulas), then, else: other };
      }
      case 'condition': {
        const [then, other] = branches();
        return {
          op: 'condition',
          formula: formulas.index(mark.formula),
          node: mark.node,
          path: mark.path,
          then,
          else: other,
        };
      }
      case 'loop': {
        const body = sequence();
        return {
          op: 'loop',
          loop: loopProgram(mark.loop, formulas),
          node: mark.node,
          path: mark.path,
          body,
          ...(mark.grid && { grid: mark.grid }),
        };
      }
      case 'node':
        return { op: 'node', node: mark.node, body: sequence() };
    }
  };

  const ops = sequence();
  if (at < pieces.length)
    throw new Error('The marks of a mail do not nest; this is a fault in build.');
  return ops;
}
