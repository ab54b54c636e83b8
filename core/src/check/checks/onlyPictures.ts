import { isBlock } from '../../template/nodes';
import { positions } from '../ask';
import { defineCheck } from '../define';
import { rawPictures, writtenWords } from '../written';

/** Fewer letters than this beside pictures are no words. */
const FEW = 20;
const SHOWS_WORDS = new Set([
  ...['lines', 'cards', 'totals', 'notes', 'posts', 'gallery', 'links', 'menu'],
]);

export const onlyPictures = defineCheck({
  name: 'only_pictures',
  label: 'The email says something without its pictures',
  find({ template }) {
    const blocks = positions(template).filter(({ node }) => isBlock(node) && node.kind !== 'foot');
    const isPicture = ({ node }: (typeof blocks)[number]) =>
      node.kind === 'picture' || node.kind === 'video';
    if (!blocks.some(isPicture) && rawPictures(template).length === 0) return [];
    if (blocks.some(({ node }) => SHOWS_WORDS.has(node.kind))) return [];
    const feet = new Set(
      positions(template).flatMap(({ node }) => (node.kind === 'foot' ? [node.id] : [])),
    );
    const letters = writtenWords(template)
      .filter(({ node, path }) => node !== '' && !feet.has(node) && !/(?:^|\.)alt$/.test(path))
      .reduce((sum, { words }) => sum + words.replace(/[^\p{L}\uFFFC]/gu, '').length, 0);
    if (letters >= FEW) return [];
    return [
      {
        ...{ severity: 'warning' as const, node: '', path: '' },
        message:
          'The email is made of pictures alone. Many people read emails with pictures off, and filters take such emails for junk: write its message as text as well.',
      },
    ];
  },
});
