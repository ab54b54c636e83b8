import { nanoid } from 'nanoid';
import { fieldNamed, type Shape } from '@carafe/core/shape';
import {
  newBlock,
  newSection,
  recordAbove,
  type Block,
  type BlockKind,
  type Section,
  type ShopSources,
  type Template,
} from '@carafe/core/template';

/** A section of one column, or of so many. */
type SectionKind = 'section' | `section ${2 | 3 | 4}`;
export type AddableKind = BlockKind | SectionKind;

export const isSectionKind = (kind: AddableKind): kind is SectionKind =>
  kind.split(' ')[0] === 'section';

const newId = () => nanoid(8);

/** What the shop has that a new block can be tied to, by the shape of its records. */
function sourcesOf(shape: Shape): ShopSources {
  const namesIn = (root: string) => {
    const found = fieldNamed(shape, root)?.shape;
    return found?.kind === 'record' ? Object.keys(found.fields) : [];
  };
  return { catalogs: namesIn('catalog'), feeds: namesIn('feeds'), coupons: namesIn('coupon') };
}

/** A new block, tied to what the shop has and to what stands above it, or a new section with a text in it. */
export function madeNode(
  kind: AddableKind,
  shape: Shape,
  above: { template: Pick<Template, 'sections'> | null; after: string },
): Block | Section {
  if (!isSectionKind(kind)) {
    const { template, after } = above;
    const record = template ? recordAbove(template, after) : 'cart';
    return newBlock(kind, newId, { ...sourcesOf(shape), record });
  }
  const columns = Number(kind.split(' ')[1] ?? 1);
  return newSection(newId, [newBlock('text', newId)], columns);
}
