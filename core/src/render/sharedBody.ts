import type { Op, Program } from '../build/program';
import { rootsOf } from '../formula';
import { MAX_MAIL, MAX_REPEATS } from './cut';
import { outcomeOf, type Filling } from './filling';
import { isOwnLink } from './linkTags';
import { parsedOrMissing } from './loop';
import { readsOwn, type Walked } from './sharedWalk';
import { MAX_TRAIL, type Trail } from './trail';

/** What a loop put into a mail, to be put into the next one as it is. */
interface Kept {
  html: string;
  repeats: number;
  length: number;
  trail: Trail;
  products: readonly unknown[];
  /** Addresses that were given link tags: one that is a recipient's own link gets none. */
  tagged: readonly string[];
}

/** Repeats the body of a loop for what its list came to. */
export type Repeat = (f: Filling, walked: Walked) => void;

/** The formulas that operations ask, by their numbers; null where they depend on what stands above them in the mail. */
function formulasIn(ops: readonly Op[], tags: readonly number[]): number[] | null {
  const found: number[] = [];
  const numbers = (parts: readonly (string | number)[]) =>
    parts.filter((part) => typeof part === 'number');
  for (const op of ops) {
    if (typeof op === 'string') continue;
    const inside: Op[] = [];
    switch (op.op) {
      case 'value':
        found.push(op.formula);
        break;
      case 'address':
        found.push(...numbers(op.parts), ...(op.scheme === 'link' ? tags : []));
        break;
      case 'ifAddress':
        found.push(...numbers(op.parts));
        inside.push(...op.then, ...op.else);
        break;
      case 'condition':
        found.push(op.formula);
        inside.push(...op.then, ...op.else);
        break;
      case 'loop': {
        const { list, where, by, fill, once } = op.loop;
        if (once) return null;
        for (const one of [list, where, by, fill]) if (one !== undefined) found.push(one);
        inside.push(...op.body);
        break;
      }
      default:
        inside.push(...op.body);
    }
    const deeper = formulasIn(inside, tags);
    if (!deeper) return null;
    found.push(...deeper);
  }
  return found;
}

/** The names that the body of a loop asks for; null where it cannot be the same for many. */
function namesIn(body: readonly Op[], { formulas, linkTags = [] }: Program): string[] | null {
  const tags = linkTags.flatMap(({ parts }) => parts.filter((part) => typeof part === 'number'));
  const found = formulasIn(body, tags);
  return (
    found && [...rootsOf(...[...new Set(found)].map((at) => parsedOrMissing(formulas[at] ?? '')))]
  );
}

/** Runs `repeat` on a mail of its own, so that what it adds is known. */
function keptOf(repeat: Repeat, f: Filling, walked: Walked): Kept | null {
  const tagged: string[] = [];
  const alone: Filling = {
    ...f,
    ...{ out: [], repeats: 0, length: 0, cut: null, outcomes: new Set(), tagged },
    trail: f.trail && [],
    products: f.products && new Set(),
  };
  repeat(alone, walked);
  const { out, repeats, length, trail, products } = alone;
  if (alone.cut || alone.context.total <= 0) return null;
  if (tagged.some((address) => isOwnLink(f.context.record, address))) return null;
  return {
    ...{ html: out.join(''), repeats, length, tagged },
    ...{ trail: trail ?? [], products: [...(products ?? [])] },
  };
}

/** Puts what is kept into a mail; false where it would run into a bound there, or is another for this recipient. */
function putKept(f: Filling, kept: Kept): boolean {
  const { html, repeats, length, trail, products, tagged } = kept;
  if (f.repeats + repeats > MAX_REPEATS || f.length + length > MAX_MAIL) return false;
  if (f.trail && f.trail.length + trail.length > MAX_TRAIL) return false;
  if (tagged.some((address) => isOwnLink(f.context.record, address))) return false;
  f.repeats += repeats;
  f.length += length;
  f.out.push(html);
  if (f.trail)
    for (const entry of trail) {
      f.trail.push(entry);
      const outcome = outcomeOf(entry);
      if (outcome !== null) f.outcomes.add(outcome);
    }
  if (f.products) for (const sku of products) f.products.add(sku);
  return true;
}

/**
 * What a loop over a shared list puts into a mail is made once for all for whom the list came to the same, where its body
 * asks for nothing of the recipient's either; entries of the trail are then the same objects, too.
 */
export function rememberBody(repeat: Repeat, body: readonly Op[], program: Program): Repeat {
  const names = namesIn(body, program);
  if (!names) return repeat;
  const isOwn = readsOwn(names);
  const known = new WeakMap<Walked, Kept | null>();
  return (f, walked) => {
    const { record, total } = f.context;
    const canBeKept = walked.isShared && total > 0 && f.lengths === undefined && !isOwn(record);
    if (!canBeKept) {
      repeat(f, walked);
      return;
    }
    let kept = known.get(walked);
    if (kept === undefined) {
      kept = keptOf(repeat, f, walked);
      known.set(walked, kept);
      // It is done again then: this mail does not pay twice.
      if (!kept) f.context.total = total;
    }
    if (!kept || !putKept(f, kept)) repeat(f, walked);
  };
}
