import { positions, nameOf } from '../ask';
import { defineCheck } from '../define';
import { untagged, writtenLinks } from '../written';

/** Words that say nothing of where they lead. */
const VAGUE =
  /^(?:please )?(?:click|tap|press) (?:here|this|below|on this)(?: now)?$|^(?:here|this|link|this link|more|read this)$|\bclick here\b/i;

export const vagueLink = defineCheck({
  name: 'vague_link',
  label: 'Links say where they lead',
  find({ template }) {
    const buttons = positions(template).flatMap(({ node }) =>
      node.kind === 'button' ? [{ node: node.id, path: 'label', words: untagged(node.label) }] : [],
    );
    return [...buttons, ...writtenLinks(template)]
      .filter(({ words }) => VAGUE.test(words.trim().replace(/[\s.!…›»→]+$/u, '')))
      .map(({ node, path, words }) => ({
        ...{ severity: 'hint' as const, node, path },
        message: `“${words.trim()}” in “${nameOf(template, node)}” does not say where it leads. People who have the links read to them hear nothing else.`,
      }));
  },
});
