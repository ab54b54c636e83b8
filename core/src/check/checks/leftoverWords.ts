import { newBlock } from '../../template/make';
import type { BlockKind } from '../../blocks';
import { isBlock } from '../../template/nodes';
import type { Template } from '../../template/schema';
import { LAYOUTS } from '../../template/layouts';
import { positions, shortened, wordsOfNode } from '../ask';
import { defineCheck } from '../define';

/** Words of which everybody knows that somebody forgot them. */
const LEFT =
  /\blorem ipsum\b|\bdolor sit amet\b|\bTODO\b|\bTBD\b|\bplaceholder\b|\byour (?:text|words|headline|logo) here\b|\bxxx+\b|\[(?:insert|your|name|date|link)[^\]]*\]/i;

/** A fallback that waits for words. */
export const WAITING = '"…"';

let known: ReadonlySet<string> | null = null;

/** The first words of a template that stood there from the beginning, or wait to be written; null where there are none. */
export function leftoverIn(template: Template): string | null {
  for (const { node } of positions(template)) {
    if (!isBlock(node)) continue;
    const words = wordsOfNode(node).find((one) => LEFT.test(one) || given().has(one.trim()));
    if (words !== undefined) return shortened(words);
  }
  return null;
}

/** What layouts and new blocks say that is there to be written over. */
function given(): ReadonlySet<string> {
  if (known) return known;
  let count = 0;
  const newId = () => `n${++count}`;
  const said = ['text', 'heading'].flatMap((kind) =>
    wordsOfNode(newBlock(kind as BlockKind, newId)),
  );
  const letters = LAYOUTS.filter(({ id }) => id === 'blank' || id === 'products').flatMap(
    ({ sections }) =>
      sections(newId, {
        id: 's',
        url: 'https://s.example',
        address: 'x',
        catalogs: [],
        feeds: [],
        rules: [],
      } as never)
        .flatMap(({ columns }) => columns.flatMap(({ blocks }) => blocks))
        .filter(({ kind }) => kind === 'text')
        .flatMap(wordsOfNode),
  );
  known = new Set(
    [...said, ...letters].filter(
      (words) => /\p{L}{3}/u.test(words) && !/^(?:Unsubscribe|Email preferences)$/.test(words),
    ),
  );
  return known;
}

export const leftoverWords = defineCheck({
  name: 'leftover_words',
  label: 'No words are left over from the layout',
  find: ({ template, sites }) => [
    ...sites
      .filter(({ source }) => source.includes(`otherwise ${WAITING}`))
      .map(({ node, path }) => ({
        ...{ severity: 'error' as const, node, path },
        message:
          'The fallback “…” waits for your words: say what stands there where a field is blank.',
      })),
    ...positions(template)
      .filter(({ node }) => isBlock(node))
      .flatMap(({ node }) => {
        const words = wordsOfNode(node).find((one) => LEFT.test(one) || given().has(one.trim()));
        return words === undefined
          ? []
          : [
              {
                ...{ severity: 'error' as const, node: node.id, path: 'text' },
                message: `“${shortened(words)}” is left over from the layout. Write your own, or delete the block.`,
                repair: { label: 'Delete the block', take: node.id },
              },
            ];
      }),
  ],
});
