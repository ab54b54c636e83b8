import { parsedFormula, walk, type Node } from '../formula';
import { walkFormulas, type FormulaSite } from '../site';
import type { Loop } from '../template/parts';
import { catalogsRead } from './paths';

/** What of a catalog a document can show: all of it, or what some loops show to anybody. */
export interface CatalogNeed {
  name: string;
  /** Null where all of it may be needed. */
  loops: Loop[] | null;
}

/** What a formula may name whose value differs from person to person. */
const PERSONAL = new Set('person cart order picks event links record'.split(' '));
/** Functions that print or reckon in the recipient's language or time zone. */
const LOCAL = new Set(
  'date number money percent plural year month day weekday_number days_between upper lower title'.split(
    ' ',
  ),
);

/** Whether a formula gives the same for everybody, but for what day it is. */
function isShared(source: string | undefined): boolean {
  if (source === undefined) return true;
  const parsed = parsedFormula(source);
  let shared = parsed.ok;
  if (parsed.ok)
    walk(parsed.value, (node) => {
      if (node.type === 'name' && PERSONAL.has(node.name)) shared = false;
      if (node.type === 'call' && LOCAL.has(node.name)) shared = false;
    });
  return shared;
}

/** The catalog that a list is: `catalog.garden`, filtered or not. */
function catalogOf(node: Node): string | null {
  if (node.type === 'where') return catalogOf(node.of);
  if (node.type === 'field' && node.of.type === 'name' && node.of.name === 'catalog')
    return node.name;
  if (node.type === 'index' && node.of.type === 'name' && node.of.name === 'catalog')
    return node.index.type === 'text' ? node.index.value : null;
  return null;
}

/** What fills a loop up is a list of its own, and is told as one. */
function withoutFill({ fill: _, ...loop }: Loop): Loop {
  return loop;
}

function names(node: Node, name: string): number {
  let count = 0;
  walk(node, (inside) => {
    if (inside.type === 'name' && inside.name === name) count++;
  });
  return count;
}

/**
 * What some sites need of each catalog that they name; null where they may mean any. A catalog that is
 * only ever walked by loops which are the same for everybody is needed as far as those show it.
 */
export function catalogNeeds(sites: readonly FormulaSite[]): CatalogNeed[] | null {
  const known = catalogsRead(sites);
  if (known === null) return null;
  const loops = new Map<string, Loop[]>();
  const whole = new Set<string>();
  let isAnyWhole = false;
  walkFormulas(sites, (formula, site) => {
    const asked = names(formula, 'catalog');
    if (asked === 0) return;
    const name = site.use === 'list' && asked === 1 ? catalogOf(formula) : null;
    const { loop } = site;
    if (name === null || !loop) isAnyWhole = true;
    else if (isShared(loop.list) && isShared(loop.where) && isShared(loop.sort?.by))
      loops.set(name, [...(loops.get(name) ?? []), withoutFill(loop)]);
    else whole.add(name);
  });
  return known.map((name) => ({
    name,
    loops: isAnyWhole || whole.has(name) ? null : (loops.get(name) ?? null),
  }));
}
