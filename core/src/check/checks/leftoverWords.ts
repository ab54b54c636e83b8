import { newBlock } from '../../template/make';
import type { BlockKind } from '../../blocks';
import type { Template } from '../../template/schema';
import { LAYOUTS } from '../../template/layouts';
import { shortened, wordsOfNode } from '../ask';
import { defineCheck } from '../define';
import { writtenWords, type Written } from '../written';

/** Words of which everybody knows that somebody forgot them. */
const LEFT =
  /\blorem ipsum\b|\bdolor sit amet\b|\bTODO\b|\bTBD\b|\bplaceholder\b|\b(?:your|add|insert|write|enter) (?:text|words?|headline|heading|title|subject|logo|image|button|link)(?: text)? here\b|\b(?:button|link|heading|title|subject|body|preview) text here\b|\bxxx+\b|\[(?:insert|your|name|date|link)[^\]]*\]/i;

/** A fallback that waits for words. */
export const WAITING = '"…"';

let known: ReadonlySet<string> | null = null;

/** The first words of a template that stood there from the beginning, or wait to be written; null where there are none. */
export function leftoverIn(template: Template): string | null {
  const [first] = leftovers(template);
  return first ? shortened(first.words) : null;
}

/** The first words of each field that stood there from the beginning, or wait to be written. */
function leftovers(template: Template): Written[] {
  const said = new Set<string>();
  return writtenWords(template).filter(({ node, path, words }) => {
    const place = `${node} ${path}`;
    if (said.has(place) || !(LEFT.test(words) || given().has(words.trim()))) return false;
    return said.add(place);
  });
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
    ...leftovers(template).map(({ node, path, words }) => ({
      ...{ severity: 'error' as const, node, path },
      message: `“${shortened(words.trim())}” is left over from the layout. Write your own${node === '' ? '' : ', or delete the block'}.`,
      ...(node !== '' && { repair: { label: 'Delete the block', take: node } }),
    })),
  ],
});
