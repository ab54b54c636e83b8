import { itemsOf } from '../../template/nodes';
import { nameOf, positions } from '../ask';
import { defineCheck } from '../define';
import { isService } from './unsubscribe';

export const serviceAdvert = defineCheck({
  name: 'service_advert',
  label: 'A service email carries no advertising',
  find({ template, sites, sentAs }) {
    const service = sentAs ? sentAs === 'service' : isService(sites);
    if (!service) return [];
    return positions(template)
      .filter(({ node, parents }) => {
        const list = (node.loop ?? itemsOf(node))?.list ?? '';
        const guarded = [node, ...parents].some(({ when }) => when?.includes('person.consent'));
        return !guarded && (node.kind === 'coupon' || /\b(?:picks|catalog)\b/.test(list));
      })
      .map(({ node }) => ({
        ...{ severity: 'warning' as const, node: node.id, path: 'items' },
        message: `“${nameOf(template, node.id)}” is advertising in an email about an order, which also goes to those who agreed to none. Show it only when person.consent holds, or take it out.`,
        ...(node.when === undefined && {
          repair: {
            label: 'Show it to those who agreed',
            put: { node: node.id, path: 'when', value: 'person.consent' },
          },
        }),
      }));
  },
});
