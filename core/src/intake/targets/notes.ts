import { field, type TargetDefinition } from './define';

/** Words that go with products in order mails. */
export const notes: TargetDefinition = {
  label: 'Product notes',
  one: 'note',
  many: 'notes',
  description: 'Words that go with products in order mails.',
  usualName: 'notes',
  key: 'about',
  fields: [
    field('about', 'SKU or category', 'text', 'about sku category product for', true),
    field('title', 'Title', 'text', 'title headline'),
    field('words', 'Words', 'text', 'words text note body', true),
    field('image', 'Picture', 'text', 'image picture img'),
    field('link', 'Link', 'text', 'link url'),
    field('status', 'With order status', 'text', 'status orderstatus'),
  ],
  feeds: 'nothing',
  isOwned: false,
  mode: 'whole',
  isNamed: false,
  formula: () => null,
  paths: () => [],
  exampleFilter: 'about is "Bulbs"',
};
