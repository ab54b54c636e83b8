import { field, type TargetDefinition } from './define';

/** Posts of a journal or a blog. */
export const feed: TargetDefinition = {
  label: 'Content feed',
  one: 'post',
  many: 'posts',
  description: 'Posts of a journal or a blog.',
  usualName: 'feed',
  key: 'guid',
  fields: [
    field('guid', 'Post id', 'text', 'guid id slug', true),
    field('title', 'Title', 'text', 'title headline titel', true),
    field('link', 'Link', 'text', 'link url address'),
    field('author', 'Author', 'text', 'author by writer autor'),
    field('published_at', 'Published at', 'date', 'publishedat published date pubdate datum'),
    field('summary', 'Summary', 'text', 'summary excerpt teaser'),
    field('content', 'Content', 'text', 'content body html text'),
    field('image', 'Picture', 'text', 'image picture img bild'),
    field('categories', 'Categories', 'list', 'categories tags topics'),
  ],
  feeds: 'shared',
  isOwned: false,
  mode: 'part',
  isNamed: true,
  formula: (name) => `feeds.${name}.posts`,
  paths: (name) => [['feeds', name]],
  exampleFilter: 'title contains "sow"',
};
