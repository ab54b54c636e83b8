import { colourPairs, contrastOf, houseColour, LEAST_CONTRAST } from '../contrast';
import { defineCheck } from '../define';

export const contrast = defineCheck({
  name: 'contrast',
  label: 'Text can be read in light',
  find: ({ template }) =>
    colourPairs(template).flatMap((pair) => {
      const { node, path, what, ink, ground } = pair;
      const contrast = contrastOf(ink, ground, false);
      return contrast >= LEAST_CONTRAST
        ? []
        : [
            {
              ...{ severity: 'warning' as const, node, path },
              message: `${what} is hard to read in light: ${ink} on ${ground} has a contrast of ${contrast.toFixed(1)}, and ${LEAST_CONTRAST} is the least.`,
              ...houseColour(pair, template.style, false),
            },
          ];
    }),
});
