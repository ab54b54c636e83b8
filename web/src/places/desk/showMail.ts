import morphdom from 'morphdom';
import { localise } from '../../parts/localise';
import { cutMail, type MailSection } from './mailSections';
import type { View } from './deskSlice';

const STYLE = `
  html{overflow:hidden;background:#fff}
  span[data-value]{border-bottom:1.500px dotted #7b3f6b;cursor:text}
  span[data-value]:empty::after{content:"blank";color:#a34821;font-style:italic;font-size:.85em}
  a{cursor:default}
  .mj-outlook-group-fix>table>tbody:empty::before{content:"Empty column";display:block;padding:14px 24px;outline:1px dashed #9fb3b6;outline-offset:-4px;color:#51686d;font:13px sans-serif}
`;
/** Mail programs that darken mails on their own turn light and dark round; this shows about that. */
// Without its picture, the alternative text is words like others.
const DARK =
  'html{filter:invert(1) hue-rotate(180deg)}img[src]{filter:invert(1) hue-rotate(180deg)}';
/** Stands in a document where its sections do. */
const PLACE = 'sections';

/** A section as it is shown: the nodes from its first comment to its last. */
interface ShownSection extends MailSection {
  nodes: ChildNode[];
}
/** What a document shows, so that the next mail changes only what differs. */
interface Shown {
  frame: string;
  look: string;
  formulas: readonly string[];
  /** The element that the sections stand in. */
  around: Element;
  sections: ShownSection[];
}
const shownIn = new WeakMap<Document, Shown>();

/** Says of each value which formula it comes from. */
function nameValues(root: ParentNode, formulas: readonly string[]): void {
  for (const span of root.querySelectorAll<HTMLElement>('span[data-value]'))
    span.title = `{{ ${formulas[Number(span.dataset['value'])] ?? ''} }}`;
}

/** What a canvas does to the elements of a mail before they are shown. */
function ready(root: Element | DocumentFragment, formulas: readonly string[], view: View): void {
  if (!view.pictures)
    for (const image of root.querySelectorAll('img')) image.removeAttribute('src');
  nameValues(root, formulas);
  for (const link of root.querySelectorAll('a')) link.tabIndex = -1;
}

// A picture that stays the same is not loaded again, and equal parts are left alone.
const onBeforeElUpdated = (from: Element, to: Element) => !from.isEqualNode(to);

function parsed(html: string, formulas: readonly string[], view: View): Document {
  const next = new DOMParser().parseFromString(html, 'text/html');
  const style = next.createElement('style');
  style.textContent = STYLE + (view.dark ? DARK : '');
  next.head.append(style);
  ready(next.documentElement, formulas, view);
  return next;
}

/** The nodes of sections that stand one after the other in an element; null where they do not. */
function nodesOf(around: Element, sections: readonly MailSection[]): ShownSection[] | null {
  const found: ShownSection[] = [];
  let nodes: ChildNode[] | null = null;
  let depth = 0;
  for (const node of around.childNodes) {
    const words = node.nodeType === Node.COMMENT_NODE ? (node as Comment).data : '';
    if (words.startsWith('node ') && depth++ === 0) nodes = [];
    nodes?.push(node);
    if (words !== '/node' || --depth > 0 || !nodes) continue;
    const section = sections[found.length];
    if (!section) return null;
    found.push({ ...section, nodes });
    nodes = null;
  }
  return found.length === sections.length && depth === 0 ? found : null;
}

/** Shows all of a mail anew, and notes where its sections stand. */
function showWhole(target: Document, html: string, formulas: readonly string[], view: View): void {
  morphdom(target.documentElement, parsed(html, formulas, view).documentElement, {
    onBeforeElUpdated,
  });
  shownIn.delete(target);
  const cut = cutMail(html);
  const around = cut && firstNode(target)?.parentElement;
  const sections = around && nodesOf(around, cut.sections);
  if (around && sections)
    shownIn.set(target, {
      ...{ frame: cut.before + cut.after, look: lookOf(view), formulas },
      ...{ around, sections },
    });
}

/** So many characters of a mail, and the section in which they end, are shown before the rest: more than a screen. */
const EARLY = 40_000;

/** Shows a mail of which nothing is shown yet: its beginning at once, of a long one the rest when that is called. */
function showFirst(
  target: Document,
  html: string,
  formulas: readonly string[],
  view: View,
): Rest | null {
  const cut = cutMail(html);
  let early = '';
  let count = 0;
  for (const { html: own } of cut?.sections ?? []) {
    if (early.length > EARLY) break;
    early += own;
    count++;
  }
  if (!cut || count === cut.sections.length) {
    showWhole(target, html, formulas, view);
    return null;
  }
  showWhole(target, cut.before + early + cut.after, formulas, view);
  return () => {
    if (shownIn.has(target)) showMail(target, html, formulas, view);
    else showWhole(target, html, formulas, view);
  };
}

function firstNode(target: Document): Comment | null {
  const walker = target.createTreeWalker(target.body, NodeFilter.SHOW_COMMENT);
  for (let one = walker.nextNode(); one; one = walker.nextNode())
    if ((one as Comment).data.startsWith('node ')) return one as Comment;
  return null;
}

/** Brings nodes to what others are, as far as both are alike; gives those that stand there then. */
function brought(around: Element, from: readonly ChildNode[], to: ChildNode[]): ChildNode[] {
  const isAlike =
    from.length === to.length && from.every((node, i) => node.nodeName === to[i]?.nodeName);
  const [first] = from;
  if (!isAlike) {
    const nodes = to.map((node) => around.insertBefore(node, first ?? null));
    from.forEach((node) => node.remove());
    return nodes;
  }
  from.forEach((node, i) => {
    const wanted = to[i] as ChildNode;
    if (node.nodeType !== Node.ELEMENT_NODE) {
      if (node.nodeValue !== wanted.nodeValue) node.nodeValue = wanted.nodeValue;
    } else if (!node.isEqualNode(wanted)) morphdom(node, wanted, { onBeforeElUpdated });
  });
  return [...from];
}

const lookOf = ({ pictures, dark }: View) => `${pictures} ${dark}`;

/** Shows what was left for later. */
export type Rest = () => void;

/**
 * Shows a filled mail in a frame's document. Sections that are as they were are not even read; of the others only what
 * differs is changed. Those that `isLate` tells of, by their node, stay as they are until what is given is called, and
 * what a long mail that is the first has beyond its beginning comes then; null where nothing is left.
 */
export function showMail(
  target: Document,
  source: string,
  formulas: readonly string[],
  view: View,
  isLate: (node: string) => boolean = () => false,
): Rest | null {
  const html = localise(source);
  const shown = shownIn.get(target);
  const cut = cutMail(html);
  const isKnown = shown?.look === lookOf(view) && shown.around.isConnected && cut !== null;
  if (!isKnown) return showFirst(target, html, formulas, view);
  const frame = cut.before + cut.after;
  const { around } = shown;
  if (frame !== shown.frame) {
    const next = parsed(`${cut.before}<!--${PLACE}-->${cut.after}`, formulas, view);
    const place = [...next.body.querySelectorAll('*')].find((one) =>
      [...one.childNodes].some(
        ({ nodeType, nodeValue }) => nodeType === Node.COMMENT_NODE && nodeValue === PLACE,
      ),
    );
    if (!place) {
      showWhole(target, html, formulas, view);
      return null;
    }
    morphdom(target.documentElement, next.documentElement, {
      // What stands round the sections is the same element, whatever comes before it: a preview text, or none.
      getNodeKey: (node) => (node === around || node === place ? PLACE : (node as Element).id),
      onBeforeElUpdated: (from, to) => from === around || onBeforeElUpdated(from, to),
      onBeforeElChildrenUpdated: (from) => from !== around,
    });
    shown.frame = frame;
    if (!around.isConnected) {
      showWhole(target, html, formulas, view);
      return null;
    }
  }
  const show = (isLeft: (node: string) => boolean) => {
    shown.sections = showSections(shown, cut.sections, formulas, view, isLeft);
    // The same values may come from other formulas.
    if (formulas.join('\n') !== shown.formulas.join('\n')) nameValues(around, formulas);
    shown.formulas = formulas;
  };
  show(isLate);
  const isAll = cut.sections.every(({ html: own }, i) => shown.sections[i]?.html === own);
  return isAll ? null : () => show(() => false);
}

/** Shows sections in the place of those that are shown; gives them with their nodes. */
function showSections(
  { around, sections }: Shown,
  wanted: readonly MailSection[],
  formulas: readonly string[],
  view: View,
  isLeft: (node: string) => boolean,
): ShownSection[] {
  const before = new Map(sections.map((section) => [section.id, section]));
  const ids = new Set(wanted.map(({ id }) => id));
  const behind = sections.at(-1)?.nodes.at(-1)?.nextSibling ?? null;
  for (const { id, nodes } of sections) if (!ids.has(id)) nodes.forEach((node) => node.remove());
  const template = document.createElement('template');
  let at: ChildNode | null = sections.find(({ id }) => ids.has(id))?.nodes[0] ?? behind;
  return wanted.map((section): ShownSection => {
    const known = before.get(section.id);
    let nodes = known?.nodes ?? [];
    // Another place among its fellows.
    if (known && nodes[0] !== at) for (const node of nodes) around.insertBefore(node, at);
    const isStale = known !== undefined && known.html !== section.html && isLeft(section.id);
    if (known?.html !== section.html && !isStale) {
      template.innerHTML = section.html;
      ready(template.content, formulas, view);
      const fresh = [...template.content.childNodes];
      nodes = known
        ? brought(around, nodes, fresh)
        : fresh.map((node) => around.insertBefore(node, at));
    }
    at = nodes.at(-1)?.nextSibling ?? at;
    return { ...(isStale ? known : section), nodes };
  });
}
