import { colourPairs, contrastOf, houseColour, LEAST_CONTRAST } from '../contrast';
import { defineCheck } from '../define';

export const contrastDark = defineCheck({
  name: 'contrast_dark',
  label: 'Text can be read in the dark',
  find: ({ template }) =>
    colourPairs(template).flatMap((pair) => {
      const { node, path, what, ink, ground } = pair;
      const contrast = contrastOf(ink, ground, true);
      return contrast >= LEAST_CONTRAST
        ? []
        : [
            {
              ...{ severity: 'hint' as const, node, path },
              message: `${what} is hard to read in the dark: ${ink} on ${ground} has a contrast of ${contrast.toFixed(1)}, and ${LEAST_CONTRAST} is the least.`,
              ...houseColour(pair, template.style, true),
            },
          ];
    }),
});
