export { alternativeHolds, alternativesOf } from './alternatives';
export { chosenNodes } from './chosen';
export { movedBorder, NARROWEST } from './columns';
export { columnWidths } from './structure';
export { anyMember } from '../blocks/define';
export { richGist } from './gist';
export {
  apply,
  changeNode,
  edit,
  fits,
  insertNode,
  moveNode,
  putField,
  removeNode,
  spotAfter,
  takeBack,
  type Edit,
  type Spot,
} from './edit';
export * from './history';
export { blankTemplate, HOUSE_STYLE, isTiedToShop, newBlock, newSection, type NewId } from './make';
export {
  childLists,
  childrenOf,
  findNode,
  isBlock,
  itemsOf,
  listedOwner,
  ownerOfElse,
  siblingsOf,
  walkNodes,
  withNewIds,
  type NodePosition,
} from './nodes';
export { kindOf } from './kinds';
export {
  readTemplate,
  readTemplateText,
  templateJsonSchema,
  type ReadTemplate,
  type TemplateProblem,
} from './read';
export {
  MAX_LIST_DEPTH,
  MAX_WORDS,
  RichText,
  walkInlines,
  type Inline,
  type ListItem,
  type Mark,
  type Paragraph,
  type RichBlock,
  type RichList,
} from './richText';
export { BLOCKS, type BlockKind } from '../blocks';
export { recordAbove } from './recordAbove';
export { namedFormula, NO_SOURCES, type ShopSources } from '../blocks/define';
export { HouseStyle, Loop } from './parts';
export {
  Template,
  TEMPLATE_VERSION,
  type Expectation,
  type LinkTag,
  type Block,
  type BlockOf,
  type Column,
  type Section,
  type TemplateNode,
} from './schema';
export { fromRunning, richText, toRunning } from './words';
export { DELETED_PART, nodeNames } from './nodeNames';
export { placeInWords } from './placeInWords';
export { compareTemplates, type Difference } from './compare';
export { composer, countedIds } from './compose';
export { clipOf, pasteNodes, placeAtEnd, readClip, spotForBlock, spotForSection } from './clip';
export { unwrapGroup, wrapInGroup, wrapInSection, type NoSection } from './wrap';
export { canDrop, dropNodes, newSpot } from './drop';
export { elseOwners, withElseShown } from './peek';
export { foot, fromLayout, LAYOUTS, masthead, type Layout, type LayoutShop } from './layouts';
