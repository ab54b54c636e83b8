import { button } from './button';
import { cards } from './cards';
import { coupon } from './coupon';
import { divider } from './divider';
import { foot } from './foot';
import { gallery } from './gallery';
import { group } from './group';
import { heading } from './heading';
import { html } from './html';
import { lines } from './lines';
import { links } from './links';
import { menu } from './menu';
import { notes } from './notes';
import { picture } from './picture';
import { posts } from './posts';
import { spacer } from './spacer';
import { text } from './text';
import { totals } from './totals';
import { video } from './video';

/** Every kind of block, in the order in which they are offered. */
export const BLOCKS = {
  ...{ text, heading, picture, button, cards, lines, totals, notes, posts, coupon },
  ...{ gallery, video, menu, links, divider, spacer, group, html, foot },
};

export type BlockKind = keyof typeof BLOCKS;

export {
  defineBlock,
  type BlockDefinition,
  type NodeKind,
  type ShopSources,
  type TextLooks,
} from './define';
export { PLACE_NAMES } from './notes';
export {
  fieldsAt,
  memberKind,
  putAt,
  valueAt,
  type LineField,
  type ListField,
  type MemberKind,
  type NodeField,
  type RichField,
} from './fields';
