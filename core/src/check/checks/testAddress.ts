import { addressFacts, nameOf, shortened } from '../ask';
import { defineCheck } from '../define';

export const testAddress = defineCheck({
  name: 'test_address',
  label: 'No link leads to a test address',
  find: (context) =>
    addressFacts(context, 'example').map(({ decision: { node, path }, fact }) => ({
      ...{ severity: 'error' as const, node, path, people: fact.people, person: fact.person },
      message: `“${nameOf(context.template, node)}” leads to an address that is there for tests and examples (${shortened(fact.sample)}).`,
    })),
});
