import type { Program } from '../build';
import type { Fields } from '../formula';
import { bitOf, prepare, Tally, type Decision, type Render } from '../render';
import { differing } from './differing';

/** What became of a part of the mail. */
export interface NodeChange {
  /** The node’s id; empty for subject, preview text and sender. */
  node: string;
  change: 'appears' | 'vanishes' | 'changes';
}

/** People whose mails change alike. */
export interface ImpactGroup {
  nodes: NodeChange[];
  /** Nodes that are worse than before for them: an empty list, a blank, a link or picture that is gone. */
  worse: string[];
  people: number;
  person: number;
}

export interface Impact {
  people: number;
  changed: number;
  /** Who got a mail and gets none, and the other way round. */
  lost: number;
  gained: number;
  groups: ImpactGroup[];
}

export const NO_IMPACT: Impact = { people: 0, changed: 0, lost: 0, gained: 0, groups: [] };

const MARK = /<!--(node ([\w-]+)|\/node)-->/g;

/** The words of each node of a mail with bounds, without those of nodes inside it. */
export function partsOf(html: string): Map<string, string> {
  const parts = new Map<string, string>();
  const open: string[] = [''];
  let from = 0;
  const put = (until: number) => {
    const id = open.at(-1) ?? '';
    parts.set(id, (parts.get(id) ?? '') + html.slice(from, until));
  };
  for (const found of html.matchAll(MARK)) {
    put(found.index);
    from = found.index + found[0].length;
    if (found[2] === undefined) open.pop();
    else {
      open.push(found[2]);
      if (!parts.has(found[2])) parts.set(found[2], '');
    }
  }
  put(html.length);
  return parts;
}

/** What a piece of HTML shows besides words: a picture, a height of its own, a colour behind it, a line. */
const SHOWS =
  /<(?:img|hr|input)\b|(?<!line-)height[:=]"?[1-9]|background|border(?:-\w+)?:(?!0|collapse|none)/;
const BLANKS = /<[^>]*>|&(?:nbsp|zwnj|#8203|#160|#847);|\s/g;

/** HTML as a reader sees it: white space between words and attributes is one space, and comments are none. */
const asSeen = (html: string): string =>
  html
    .replace(/<!--[^]*?-->/g, '')
    .replace(/\s+/g, ' ')
    .replace(/ ?(\/?>)/g, '$1');

/** The parts of a mail that somebody sees, as they are seen. */
export function seenParts(html: string): Map<string, string> {
  const parts = new Map<string, string>();
  for (const [node, part] of partsOf(html)) {
    const seen = asSeen(part);
    // The frame is kept: it is told with the style.
    if (node === '' || SHOWS.test(seen) || seen.replace(BLANKS, '') !== '') parts.set(node, seen);
  }
  return parts;
}

/** Whether the same is seen in the same order. */
const isSame = (a: Map<string, string>, b: Map<string, string>): boolean => {
  const others = [...b];
  return (
    a.size === b.size &&
    [...a].every(([node, seen], i) => others[i]?.[0] === node && others[i][1] === seen)
  );
};

function changesOf(before: Map<string, string>, after: Map<string, string>): NodeChange[] {
  const changes: NodeChange[] = [];
  for (const [node, words] of before) {
    // What stands round the nodes is the frame: it changes with the style alone.
    if (node === '') continue;
    const now = after.get(node);
    if (now === undefined) changes.push({ node, change: 'vanishes' });
    else if (now !== words) changes.push({ node, change: 'changes' });
  }
  for (const node of after.keys())
    if (node !== '' && !before.has(node)) changes.push({ node, change: 'appears' });
  return changes;
}

/** The places that are empty in some way, with their nodes: a list of its own without members, a blank value, an address that is none. */
function emptyPlaces(tally: Tally): Map<string, string> {
  const empty = new Map<string, string>();
  const isEmpty: Partial<Record<Decision['kind'], number>> = {
    list: bitOf('list', 'none'),
    value: bitOf('value', 'blank'),
    address: bitOf('address', 'blank'),
  };
  tally.decisions.forEach(({ kind, node, path }, i) => {
    const bit = isEmpty[kind] ?? 0;
    if (path !== 'loop' && ((tally.bits[i] ?? 0) & bit) !== 0) empty.set(`${node} ${path}`, node);
  });
  return empty;
}

class Side {
  readonly tally = new Tally();
  private readonly fill: Render;

  constructor(program: Program) {
    this.fill = prepare(program, { tally: this.tally, canvas: true, text: false });
  }

  look(record: Fields, asOf: Date) {
    const { mail, held } = this.fill(record, { asOf });
    const head = [mail.from, mail.to_name, mail.subject, mail.preview_text].join('\n');
    return { head, html: mail.html, held: held === true };
  }
}

/** Compares two versions of a template, or two states of its data, person by person. */
export class ImpactCounter {
  private readonly before: Side;
  private readonly after: Side;
  private readonly impact: Impact = { ...NO_IMPACT, groups: [] };
  private readonly groups = new Map<string, ImpactGroup>();

  constructor(before: Program, after: Program) {
    const [old, now] = differing(before, after);
    this.before = new Side(old);
    this.after = new Side(now);
  }

  look(person: number, before: Fields, after: Fields, asOf: Date): void {
    const old = this.before.look(before, asOf);
    const now = this.after.look(after, asOf);
    this.impact.people++;
    if (old.held && !now.held) this.impact.gained++;
    if (!old.held && now.held) this.impact.lost++;
    if (old.html === now.html && old.head === now.head && old.held === now.held) return;
    const parts = [seenParts(old.html), seenParts(now.html)] as const;
    if (isSame(...parts) && old.head === now.head && old.held === now.held) return;
    const nodes: NodeChange[] = changesOf(...parts);
    this.impact.changed++;
    if (old.head !== now.head) nodes.unshift({ node: '', change: 'changes' });
    const wasEmpty = emptyPlaces(this.before.tally);
    const isEmpty = [...emptyPlaces(this.after.tally)].filter(([place]) => !wasEmpty.has(place));
    const worse = [...new Set(isEmpty.map(([, node]) => node))].sort();
    const key = JSON.stringify([nodes, worse]);
    const known = this.groups.get(key);
    if (known) known.people++;
    else this.groups.set(key, { nodes, worse, people: 1, person });
  }

  result(): Impact {
    return { ...this.impact, groups: worstFirst([...this.groups.values()]) };
  }
}

/** Those for whom something is worse first, then the larger. */
function worstFirst(groups: ImpactGroup[]): ImpactGroup[] {
  return groups.sort(
    (a, b) =>
      Number(b.worse.length > 0) - Number(a.worse.length > 0) ||
      b.people - a.people ||
      a.person - b.person,
  );
}

/** The impacts on two groups of people that have nobody in common. */
export function addImpact(a: Impact, b: Impact): Impact {
  const groups = new Map(a.groups.map((one) => [JSON.stringify([one.nodes, one.worse]), one]));
  for (const one of b.groups) {
    const key = JSON.stringify([one.nodes, one.worse]);
    const known = groups.get(key);
    groups.set(key, known ? { ...known, people: known.people + one.people } : one);
  }
  return {
    people: a.people + b.people,
    changed: a.changed + b.changed,
    lost: a.lost + b.lost,
    gained: a.gained + b.gained,
    groups: worstFirst([...groups.values()]),
  };
}
