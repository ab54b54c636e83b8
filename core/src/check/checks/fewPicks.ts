import { OUTCOMES } from '../../render';
import { offeringLoops } from '../offered';
import { nameOf } from '../ask';
import { defineCheck, ofPeople, type Found } from '../define';

/** The bands of how many members a list showed, with the most that each stands for. */
const MOST_OF: Record<(typeof OUTCOMES.list)[number], number> = {
  ...{ none: 0, one: 1, two: 2, three: 3, some: 6, many: Infinity },
};

export const fewPicks = defineCheck({
  name: 'few_picks',
  label: 'Recommendations fill their places',
  find({ template, survey, coverage }) {
    if (!survey || !coverage) return [];
    return offeringLoops(template).flatMap(({ node, path, loop }): Found[] => {
      const { list, at_most: places, fill } = loop;
      if (!/^picks\b/.test(list) || places === undefined || places < 2 || fill) return [];
      const of = coverage.decisions.find(({ decision: number }) => {
        const decision = survey.decisions[number];
        return decision?.kind === 'list' && decision.node === node.id && decision.path === path;
      });
      const few = (of?.outcomes ?? []).filter(
        // Nobody at all is another matter: the block is told as empty.
        ({ outcome, people }) =>
          people > 0 && outcome !== 'none' && MOST_OF[outcome as keyof typeof MOST_OF] < places,
      );
      const people = few.reduce((sum, one) => sum + one.people, 0);
      if (!of || people === 0) return [];
      const person = few[0]?.person ?? null;
      return [
        {
          ...{ severity: 'hint', node: node.id, path, people },
          message: `“${nameOf(template, node.id)}” has ${places} places, and fewer recommendations for ${ofPeople(people, of.asked)} who get to it. Say what the other places are filled from.`,
          ...(person !== null && { person }),
        },
      ];
    });
  },
});
