import { checkSites } from '../sites';
import { defineCheck, type Found } from '../define';

/** Told with the number of people by a check of its own. */
const BLANK = /is blank for/;

export const formulas = defineCheck({
  name: 'formulas',
  label: 'Formulas are sound',
  find({ sites, shape, built, survey }) {
    const found: Found[] = [];
    const known = new Set<string>();
    if (shape?.kind === 'record')
      for (const one of checkSites(sites, shape)) {
        if (survey && BLANK.test(one.message)) continue;
        const { severity, node, path, message, repair, start, end } = one;
        known.add(`${node} ${message}`);
        found.push({
          ...{ severity, node, path, message },
          ...(repair && {
            repair: { label: repair.label, replace: { node, path, start, end, text: repair.text } },
          }),
        });
      }
    for (const { severity, node, path, message } of built)
      if (!known.has(`${node} ${message}`)) found.push({ severity, node, path, message });
    return found;
  },
});
