import { colourPairs, contrastOf } from '../contrast';
import { defineCheck } from '../define';

/** The least that WCAG asks of running text. */
const LEAST = 4.5;

export const contrast = defineCheck({
  name: 'contrast',
  label: 'Text can be read in light',
  find: ({ template }) =>
    colourPairs(template).flatMap(({ node, path, what, ink, ground }) => {
      const contrast = contrastOf(ink, ground, false);
      return contrast >= LEAST
        ? []
        : [
            {
              ...{ severity: 'warning' as const, node, path },
              message: `${what} is hard to read in light: ${ink} on ${ground} has a contrast of ${contrast.toFixed(1)}, and ${LEAST} is the least.`,
            },
          ];
    }),
});
