import type { Fields } from '../formula';
import { isOwnLink } from '../render/linkTags';

/** What may be wrong with an address that stands in a mail. */
export type AddressProblem = 'hash' | 'http' | 'example' | 'person';

const TEST_HOST =
  /^https?:\/\/(?:[^/?#@]*@)?(?:[^/?#]*\.)?(?:example(?:\.(?:com|net|org))?|test|invalid|localhost|local|127\.\d+\.\d+\.\d+)(?::\d+)?(?:[/?#]|$)/i;

const hostOf = (address: string): string =>
  /^https?:\/\/(?:[^/?#@]*@)?([^/?#:]+)/i.exec(address)?.[1]?.toLowerCase() ?? '';

/** Says what is wrong with addresses of one recipient’s mail. Hot: asked for each address. */
export function judgeAddresses(record: Fields): (address: string) => AddressProblem | null {
  const { shop, person } = record as { shop?: { url?: unknown }; person?: { email?: unknown } };
  const own = hostOf(typeof shop?.url === 'string' ? shop.url : '');
  const email = typeof person?.email === 'string' ? person.email.toLowerCase() : '';
  const coded = encodeURIComponent(email);
  return (address) => {
    if (/^https?:\/\/[^/?#]*\/?#$/.test(address)) return 'hash';
    if (email !== '' && !address.startsWith('mailto:')) {
      const lower = address.toLowerCase();
      if (lower.includes(email) || lower.includes(coded.toLowerCase())) return 'person';
    }
    if (isOwnLink(record, address)) return null;
    const host = hostOf(address);
    if (TEST_HOST.test(address)) return isOfShop(host, own) ? null : 'example';
    if (/^http:/i.test(address)) return 'http';
    return null;
  };
}

/** Whether a host is the shop’s, or a part of it (pictures.shop.example). */
const isOfShop = (host: string, own: string): boolean =>
  own !== '' &&
  (host === own || host.endsWith(`.${own}`) || own.endsWith(`.${host}`) || sameHouse(host, own));

/** Hosts of one house: they share all but the first part of their names. */
function sameHouse(a: string, b: string): boolean {
  const tail = (host: string) => host.split('.').slice(-2).join('.');
  return a.includes('.') && tail(a) === tail(b);
}
