import { BLOCKS, type BlockKind } from '../blocks';
import { NO_SOURCES, type BlockDefinition, type ShopSources } from '../blocks/define';
import type { HouseStyle } from './parts';
import { TEMPLATE_VERSION, type Block, type BlockOf, type Section, type Template } from './schema';

/** Gives an id that no other node has. */
export type NewId = () => string;

export const HOUSE_STYLE: HouseStyle = {
  width: 600,
  background: '#f1f3ee',
  surface: '#ffffff',
  ink: '#22302a',
  quiet: '#5d6b63',
  primary: '#2f5d43',
  on_primary: '#ffffff',
  rule: '#d9dfd6',
  heading_font: "Georgia, 'Times New Roman', serif",
  body_font: "'Helvetica Neue', Arial, sans-serif",
  text_size: 16,
  radius: 4,
};

/** A new block, tied to what the shop really has. */
export function newBlock<K extends BlockKind>(
  kind: K,
  newId: NewId,
  sources: ShopSources = NO_SOURCES,
): BlockOf<K> {
  const { make, children = [] } = BLOCKS[kind] as BlockDefinition<string, never>;
  const block: object = make(newId(), sources);
  for (const { at } of children) if (!Object.hasOwn(block, at)) Object.assign(block, { [at]: [] });
  return block as BlockOf<K>;
}

const SOME_SOURCES: ShopSources = { catalogs: ['a'], feeds: ['a'], coupons: ['a'] };

/** Whether a new block of a kind is tied to something that the shop has: that has to be known before one is made. */
export function isTiedToShop(kind: BlockKind): boolean {
  const made = (sources: ShopSources) => JSON.stringify(newBlock(kind, () => 'id', sources));
  return made(NO_SOURCES) !== made(SOME_SOURCES);
}

/** A section of one column, or of several equal ones, with the blocks given in the first. */
export function newSection(newId: NewId, blocks: Block[] = [], columns = 1): Section {
  return {
    kind: 'section',
    id: newId(),
    columns: Array.from({ length: columns }, (_, i) => ({
      kind: 'column',
      id: newId(),
      blocks: i === 0 ? blocks : [],
    })),
  };
}

export function blankTemplate(
  name: string,
  shop: string,
  sections: Section[],
  fromEmail = '',
): Template {
  return {
    format: 'carafe-template',
    version: TEMPLATE_VERSION,
    name,
    shop,
    language: 'en',
    envelope: {
      from_name: '{{ shop.name }}',
      from_email: fromEmail,
      subject: name,
      preview_text: '',
    },
    style: HOUSE_STYLE,
    sections,
  };
}
