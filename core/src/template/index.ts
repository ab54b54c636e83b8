export * from './edit';
export * from './history';
export { blankTemplate, HOUSE_STYLE, newBlock, newSection, type NewId } from './make';
export {
  childrenOf,
  findNode,
  isBlock,
  itemsOf,
  siblingsOf,
  walkNodes,
  withNewIds,
  type Place,
} from './nodes';
export {
  readTemplate,
  readTemplateText,
  templateJsonSchema,
  type ReadTemplate,
  type TemplateProblem,
} from './read';
export { RichText, walkInlines, type Inline, type Mark, type RichBlock } from './richtext';
export { BLOCKS, type BlockKind } from '../blocks';
export type { CardField } from '../blocks/cards';
export type { LinesColumn } from '../blocks/lines';
export { Loop, type HouseStyle } from './parts';
export {
  Template,
  TEMPLATE_VERSION,
  type Block,
  type BlockOf,
  type Column,
  type Section,
  type TemplateNode,
} from './schema';
export { walkSlots, type Slot } from './slots';
export { fromRunning, richText, toRunning } from './words';
export { composer, countedIds } from './compose';
export { foot, fromLayout, LAYOUTS, masthead, type Layout } from './layouts';
export { changeSlot } from './changeslot';
