import { addressFacts, nameOf, shortened } from '../ask';
import { defineCheck } from '../define';

export const hashLink = defineCheck({
  name: 'hash_link',
  label: 'No link leads to “#”',
  find: (context) =>
    addressFacts(context, 'hash').map(({ decision: { node, path }, fact }) => ({
      ...{ severity: 'error' as const, node, path, people: fact.people, person: fact.person },
      message: `“${nameOf(context.template, node)}” leads to the top of a page and nowhere else (${shortened(fact.sample)}).`,
    })),
});
