import type { BlockKind } from '../blocks';
import { NO_SOURCES, type ShopSources } from '../blocks/define';
import { newBlock, type NewId } from './make';
import type { RichText } from './richText';
import type { Block, BlockOf, Column, Section } from './schema';
import { richText } from './words';

type Given<K extends BlockKind> = Partial<Omit<BlockOf<K>, 'kind'>>;

/** Short ways to write templates by hand: layouts and demos are made of these. */
export function composer(newId: NewId, sources: ShopSources = NO_SOURCES) {
  const block = <K extends BlockKind>(kind: K, given: Given<K> = {}): BlockOf<K> =>
    ({ ...newBlock(kind, newId, sources), ...given }) as BlockOf<K>;
  return {
    block,
    text: (words: string | RichText, given: Given<'text'> = {}) =>
      block('text', { text: typeof words === 'string' ? richText(words) : words, ...given }),
    heading: (text: string, given: Given<'heading'> = {}) => block('heading', { text, ...given }),
    button: (label: string, href: string, given: Given<'button'> = {}) =>
      block('button', { label, href, ...given }),
    section: (name: string, blocks: Block[], given: Partial<Section> = {}): Section => ({
      kind: 'section',
      id: newId(),
      name,
      columns: [{ kind: 'column', id: newId(), blocks }],
      ...given,
    }),
    columns: (name: string, columns: Block[][], given: Partial<Section> = {}): Section => ({
      kind: 'section',
      id: newId(),
      name,
      columns: columns.map((blocks): Column => ({ kind: 'column', id: newId(), blocks })),
      ...given,
    }),
  };
}

/** Ids n1, n2, … for templates that are written down. */
export function countedIds(): NewId {
  let count = 0;
  return () => `n${++count}`;
}
