import { nameOf, positions } from '../ask';
import { defineCheck, type Found } from '../define';
import { seenHtml } from '../written';

/** Smaller text is hard to read on a phone, and some phones enlarge it and break the layout. In pixels. */
const SMALL = 12;

export const smallText = defineCheck({
  name: 'small_text',
  label: 'No text is too small to read',
  find({ template }) {
    const all: Found[] =
      template.style.text_size < SMALL
        ? [
            {
              ...{ severity: 'warning', node: '', path: 'style.text_size' },
              message: `The text of the email is ${template.style.text_size} pixels high. On a phone, less than ${SMALL} is hard to read.`,
              repair: {
                label: 'Make it 14 pixels',
                put: { node: null, path: 'style.text_size', value: 14 },
              },
            },
          ]
        : [];
    const own = positions(template).flatMap(({ node }): Found[] => {
      const says = (size: number, path: string): Found => ({
        ...{ severity: 'warning', node: node.id, path },
        message: `“${nameOf(template, node.id)}” has text of ${size} pixels. On a phone, less than ${SMALL} is hard to read.`,
      });
      if (node.kind === 'text' && node.size !== undefined && node.size < SMALL)
        return [says(node.size, 'size')];
      if (node.kind !== 'html') return [];
      const sizes = [...seenHtml(node.source).matchAll(/font-size\s*:\s*(\d+(?:\.\d+)?)px/gi)]
        .map(([, size]) => Number(size))
        // Nothing at all hides what is read aloud alone.
        .filter((size) => size > 2 && size < SMALL);
      return sizes[0] === undefined ? [] : [says(Math.min(...sizes), 'source')];
    });
    return [...all, ...own];
  },
});
