import { addressFacts, nameOf, shortened } from '../ask';
import { defineCheck } from '../define';

export const insecureLink = defineCheck({
  name: 'insecure_link',
  label: 'Links and pictures begin with https',
  find: (context) =>
    addressFacts(context, 'http').map(({ decision: { node, path }, fact }) => ({
      ...{ severity: 'warning' as const, node, path, people: fact.people, person: fact.person },
      message: `“${nameOf(context.template, node)}” has an address without https: some mail programs warn of it (${shortened(fact.sample)}).`,
    })),
});
