import { dataRead } from '../check/reads';
import { templateSites } from '../site';
import type { Template } from '../template/schema';
import { positionsWithNames } from '../template/nodeNames';

/** What may be true of every mail: of each of these it is found out whether it is. */
export function candidates(template: Template): string[] {
  const reads = dataRead(templateSites(template));
  const always = positionsWithNames(template)
    .filter(({ node, depth }) => depth === 0 && node.when === undefined && node.loop === undefined)
    .map(({ name }) => `mail.shown contains ${JSON.stringify(name)}`);
  return [
    'mail.subject is filled',
    'length(mail.subject) <= 60',
    'mail.preview_text is filled',
    'mail.size <= 100000',
    'any(mail.links, address = links.unsubscribe)',
    'every(mail.links, address starts with "https://")',
    'every(mail.pictures, alt is filled)',
    ...(reads.includes('cart')
      ? [
          'every(cart.lines, mail.text contains name)',
          'any(mail.links, address = cart.recover_url)',
        ]
      : []),
    ...(reads.includes('order')
      ? ['mail.text contains order.number', 'every(order.lines, mail.text contains name)']
      : []),
    ...(reads.includes('coupon') ? ['every(mail.links, address is filled)'] : []),
    ...always,
  ];
}
