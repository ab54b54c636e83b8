import { button } from './button';
import { cards } from './cards';
import { divider } from './divider';
import { heading } from './heading';
import { lines } from './lines';
import { picture } from './picture';
import { spacer } from './spacer';
import { text } from './text';
import { totals } from './totals';

/** Every kind of block, in the order in which they are offered. */
export const BLOCKS = { text, heading, picture, button, cards, lines, totals, divider, spacer };

export type BlockKind = keyof typeof BLOCKS;

export {
  defineBlock,
  type BlockDefinition,
  type NodeKind,
  type ShopSources,
  type TextLooks,
} from './define';
export {
  memberKind,
  putAt,
  valueAt,
  type ListField,
  type MemberKind,
  type NodeField,
} from './fields';
