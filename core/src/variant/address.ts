import type { Fields } from '../formula';
import { isOwnLink } from '../render/linkTags';

/** What may be wrong with an address that stands in a mail. */
export type AddressProblem = 'hash' | 'http' | 'example' | 'person' | 'odd';

const TEST_HOST =
  /^https?:\/\/(?:[^/?#@]*@)?(?:[^/?#]*\.)?(?:example(?:\.(?:com|net|org))?|test|invalid|localhost|local|127\.\d+\.\d+\.\d+)(?::\d+)?(?:[/?#]|$)/i;

/** A second beginning, a comma or a space where the host is, or dots beside nothing. */
const ODD_HOST = /^https?:\/\/(?:https?:?$|[^/?#]*[,;\s]|[^/?#]*\.\.|\.|$)/i;

const hostOf = (address: string): string =>
  /^https?:\/\/(?:[^/?#@]*@)?([^/?#:]+)/i.exec(address)?.[1]?.toLowerCase() ?? '';

/** So many hosts are remembered with what is wrong with them for everybody. */
const MOST_KNOWN = 1_000;

const LEADS_NOWHERE = /^https?:\/\/[^/?#]*\/?#$/i;

/** An address up to the end of its host, or a little further: what stands behind the host says nothing of it. */
function upToHost(address: string): string {
  const end = address.indexOf('/', 'https://'.length);
  return end < 0 ? address : address.slice(0, end);
}

/** What is wrong with the host of an address, whoever it is for. */
function problemOfHost(address: string, own: string): AddressProblem | null {
  if (ODD_HOST.test(address)) return 'odd';
  if (TEST_HOST.test(address)) return isOfShop(hostOf(address), own) ? null : 'example';
  return /^http:/i.test(address) ? 'http' : null;
}

/** Says what is wrong with the addresses of many mails. Hot: asked for each address of each mail. */
export class AddressJudge {
  private readonly known = new Map<string, AddressProblem | null>();
  private shopUrl: unknown;
  private own = '';

  /** Says what is wrong with addresses of one recipient’s mail. */
  of(record: Fields): (address: string) => AddressProblem | null {
    const { shop, person } = record as { shop?: { url?: unknown }; person?: { email?: unknown } };
    if (shop?.url !== this.shopUrl) {
      this.shopUrl = shop?.url;
      this.own = hostOf(typeof this.shopUrl === 'string' ? this.shopUrl : '');
      this.known.clear();
    }
    const email = typeof person?.email === 'string' ? person.email.toLowerCase() : '';
    const coded = email === '' ? '' : encodeURIComponent(email).toLowerCase();
    // Most addresses hold no address of a person’s, as is seen without another look.
    const mayHold = email.includes('@')
      ? (address: string) => address.includes('@') || address.includes('%40')
      : () => true;
    return (address) => {
      const problem = this.forAll(address);
      if (problem === 'hash') return problem;
      if (email !== '' && mayHold(address) && !address.startsWith('mailto:')) {
        const lower = address.toLowerCase();
        if (lower.includes(email) || lower.includes(coded)) return 'person';
      }
      return problem !== null && isOwnLink(record, address) ? null : problem;
    };
  }

  private forAll(address: string): AddressProblem | null {
    if (address.endsWith('#') && LEADS_NOWHERE.test(address)) return 'hash';
    // Addresses are many, and each person’s own; their hosts are few.
    const host = upToHost(address);
    const known = this.known.get(host);
    if (known !== undefined) return known;
    const problem = problemOfHost(host, this.own);
    if (this.known.size < MOST_KNOWN) this.known.set(host, problem);
    return problem;
  }
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
