import { colourPairs, contrastOf } from '../contrast';
import { defineCheck } from '../define';

/** The least that WCAG asks of running text. */
const LEAST = 4.5;

export const contrastDark = defineCheck({
  name: 'contrast_dark',
  label: 'Text can be read in the dark',
  find: ({ template }) =>
    colourPairs(template).flatMap(({ node, path, what, ink, ground }) => {
      const contrast = contrastOf(ink, ground, true);
      return contrast >= LEAST
        ? []
        : [
            {
              ...{ severity: 'hint' as const, node, path },
              message: `${what} is hard to read in the dark: ${ink} on ${ground} has a contrast of ${contrast.toFixed(1)}, and ${LEAST} is the least.`,
            },
          ];
    }),
});
