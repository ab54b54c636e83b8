import { nameOf, positions } from '../ask';
import { defineCheck, type Found } from '../define';
import { seenHtml } from '../written';

/** The headings of a template in reading order, with their levels. */
function headingsOf(nodes: ReturnType<typeof positions>) {
  return nodes.flatMap(({ node }) => {
    if (node.kind === 'heading') return [{ node: node.id, path: 'level', level: node.level }];
    if (node.kind !== 'html') return [];
    return [...seenHtml(node.source).matchAll(/<h([1-6])\b/gi)].map(([, level]) => ({
      ...{ node: node.id, path: 'source', level: Number(level) },
    }));
  });
}

export const headingLevels = defineCheck({
  name: 'heading_levels',
  label: 'Headings follow one another',
  find({ template }) {
    // One of two alternatives is shown: each follows what stands above both.
    const headings = headingsOf(positions(template).filter(({ isElse }) => !isElse));
    const name = (id: string) => nameOf(template, id);
    const firsts = headings.filter(({ level }) => level === 1).slice(1);
    const several = firsts.map(({ node, path }): Found => ({
      ...{ severity: 'hint', node, path },
      message: `“${name(node)}” is one more heading of the first level. An email has one; make this one of the second.`,
    }));
    const skipped = headings.flatMap(({ node, path, level }, i): Found[] => {
      const before = headings[i - 1];
      if (!before || level <= before.level + 1) return [];
      return [
        {
          ...{ severity: 'hint', node, path },
          message: `“${name(node)}” is a heading of level ${level} right below one of level ${before.level}. Whoever jumps from heading to heading misses a level.`,
        },
      ];
    });
    return [...several, ...skipped];
  },
});
