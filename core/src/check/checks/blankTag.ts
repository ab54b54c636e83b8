import { topicOf } from '../../variant';
import { outcomes } from '../ask';
import { WAITING } from './leftoverWords';
import { defineCheck, ofPeople, type CheckContext, type Found, type Repair } from '../define';

/** A fallback put behind the formula, for the designer to fill with words; until then it is told as left over. */
function withFallback({ sites }: CheckContext, node: string, formula: string): Repair | null {
  const site = sites.find((one) => one.node === node && one.source.includes(formula));
  if (!site) return null;
  const at = site.source.indexOf(formula) + formula.length;
  return {
    label: 'Add a fallback',
    replace: { node, path: site.path, start: at, end: at, text: ` otherwise ${WAITING}` },
  };
}

export const blankTag = defineCheck({
  name: 'blank_tag',
  label: 'No merge tag is blank without a fallback',
  find(context) {
    const tags = context.sites.filter(({ use }) => use === 'tag');
    return outcomes(context, 'value', 'blank')
      .filter(
        ({ people, decision }) =>
          people > 0 &&
          tags.some(
            ({ node, source }) => node === decision.node && source.includes(decision.formula),
          ),
      )
      .map(({ decision: { node, path, formula }, people, person, asked }): Found => {
        const repair = withFallback(context, node, formula);
        return {
          ...{ severity: 'warning', node, path, people },
          message: `“${topicOf(formula)}” is blank for ${ofPeople(people, asked)} who get to it, and leaves a gap there.`,
          ...(person !== null && { person }),
          ...(repair && { repair }),
        };
      });
  },
});
