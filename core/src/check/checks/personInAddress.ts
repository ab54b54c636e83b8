import { addressFacts, nameOf, shortened } from '../ask';
import { defineCheck } from '../define';

export const personInAddress = defineCheck({
  name: 'person_in_address',
  label: 'No address holds somebody’s email address',
  find: (context) =>
    addressFacts(context, 'person').map(({ decision: { node, path }, fact }) => ({
      ...{ severity: 'warning' as const, node, path, people: fact.people, person: fact.person },
      message: `“${nameOf(context.template, node)}” has an address with the person’s own email address in it, which whoever is sent the link can read (${shortened(fact.sample)}).`,
    })),
});
