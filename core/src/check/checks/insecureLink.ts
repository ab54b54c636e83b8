import { addressFacts, nameOf, shortened } from '../ask';
import { defineCheck, type CheckContext, type Repair } from '../define';

const HTTP = 'http://';

/** An address that is written in the template itself gets the s; what data say is theirs. */
function madeSecure(
  { sites }: CheckContext,
  node: string,
  source: string,
): { repair: Repair } | null {
  if (!source.startsWith(HTTP)) return null;
  const site = sites.find((one) => one.node === node && one.source === source);
  if (!site) return null;
  const replace = { node, path: site.path, start: 0, end: HTTP.length, text: 'https://' };
  return { repair: { label: 'Begin it with https', replace } };
}

export const insecureLink = defineCheck({
  name: 'insecure_link',
  label: 'Links and pictures begin with https',
  find: (context) =>
    addressFacts(context, 'http').map(({ decision: { node, path, formula }, fact }) => ({
      ...{ severity: 'warning' as const, node, path, people: fact.people, person: fact.person },
      message: `“${nameOf(context.template, node)}” has an address without https: some email clients warn of it (${shortened(fact.sample)}).`,
      ...madeSecure(context, node, formula),
    })),
});
