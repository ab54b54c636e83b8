import { fieldsAt, valueAt } from '../../blocks/fields';
import { kindOf } from '../../template/kinds';
import { addressFacts, nameOf, positions, shortened } from '../ask';
import { defineCheck, type Found } from '../define';
import { untagged, TAG, writtenLinks } from '../written';

/** What is odd about an address as it was written, as the end of a sentence; null where nothing is. */
export function oddness(written: string): string | null {
  const address = untagged(written).trim();
  // What data say of an address from its beginning is theirs.
  if (address === '' || address.startsWith(TAG) || address.startsWith('#')) return null;
  if (/^(?:https?:\/*){2,}/i.test(address)) return 'begins twice';
  const [, scheme = '', rest = ''] = /^([a-z][a-z0-9+.-]*):(.*)$/i.exec(address) ?? [];
  if (/^mailto$/i.test(scheme))
    return /^[^@\s,;]+@[^@\s]+\.[^@\s]+$|\uFFFC/.test(rest.split('?')[0] ?? '')
      ? null
      : 'names no email address';
  if (/^(?:tel|sms)$/i.test(scheme)) return /\d{3}|\uFFFC/.test(rest) ? null : 'names no number';
  if (!/^https?$/i.test(scheme))
    return /^(?:www\.|[\w-]+(?:\.[\w-]+)+(?:\/|$))/i.test(address)
      ? 'does not begin with https://'
      : null;
  const host = /^\/\/(?:[^/?#@]*@)?([^/?#]*)/.exec(rest)?.[1];
  if (host === undefined || host === '') return 'has no host';
  if (host.includes(TAG)) return null;
  if (/[\s,;]/.test(host)) return 'has a comma or a space in its host';
  if (/^\.|\.\.|\.$/.test(host)) return 'has a dot too many in its host';
  if (!host.includes('.') && !/^(?:localhost|\[)/i.test(host)) return 'has a host without a dot';
  return /\s/.test(address) ? 'has a space in it' : null;
}

export const oddLink = defineCheck({
  name: 'odd_link',
  label: 'Addresses are well formed',
  find(context) {
    const { template } = context;
    const fields = positions(template).flatMap(({ node }) =>
      fieldsAt(node, kindOf(node).fields).flatMap(({ field, path }) => {
        const isAddress = field.control === 'line' && /link|picture/.test(field.holds);
        const href = valueAt(node, path);
        return isAddress && typeof href === 'string' ? [{ node: node.id, path, href }] : [];
      }),
    );
    const written = [...fields, ...writtenLinks(template)].flatMap(
      ({ node, path, href }): Found[] => {
        const odd = oddness(href);
        return odd === null
          ? []
          : [
              {
                ...{ severity: 'warning', node, path },
                message: `“${nameOf(template, node)}” has an address that ${odd} (${shortened(href)}).`,
              },
            ];
      },
    );
    const said = new Set(written.map(({ node }) => node));
    const filled = addressFacts(context, 'odd').flatMap(({ decision, fact }): Found[] =>
      said.has(decision.node)
        ? []
        : [
            {
              ...{ severity: 'error', node: decision.node, path: decision.path },
              ...{ people: fact.people, person: fact.person },
              message: `“${nameOf(template, decision.node)}” leads to an address that cannot be one (${shortened(fact.sample)}).`,
            },
          ],
    );
    return [...written, ...filled];
  },
});
