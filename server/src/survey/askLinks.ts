import type { LinkAnswer } from '@carafe/contract';
import type { Mail } from '@carafe/core/render';
import { partsOf } from '@carafe/core/variant';
import { STAND_IN_PICTURES } from '@carafe/contract';
import { fetchAddress, type FetchRules } from '../fetch/fetchAddress';
import { Refusal } from '../http/errors';
import { standInOf } from '../outbox/links';

const ADDRESS = /<(?:a|img)\b[^>]*?\s(?:href|src)="(https?:[^"]+)"/gi;
const unescape = (html: string) => html.replace(/&amp;/g, '&').replace(/&quot;/g, '"');
/** A mail asks for so many addresses at most, so many at a time. */
const MOST = 60;
const AT_ONCE = 4;
const HEAVY = 1_000_000;

/** The addresses of a mail with bounds, with the node of the first place that each stands at. */
export function addressesOf({ html }: Pick<Mail, 'html'>): Map<string, string> {
  const found = new Map<string, string>();
  for (const [node, words] of partsOf(html))
    for (const [, address = ''] of words.matchAll(ADDRESS)) {
      const plain = unescape(address);
      if (!found.has(plain)) found.set(plain, node);
    }
  return found;
}

async function askOne(
  address: string,
  rules: FetchRules,
): Promise<{ ok: boolean; message: string }> {
  if (standInOf(address)) return { ok: true, message: 'A page of the stand-in shop.' };
  if (address.startsWith(STAND_IN_PICTURES))
    return { ok: true, message: 'A picture of the stand-in shop.' };
  try {
    const { body, type } = await fetchAddress(address, rules);
    let bytes = 0;
    for await (const chunk of body) bytes += (chunk as Buffer).length;
    if (type.startsWith('image/') && bytes > HEAVY)
      return { ok: false, message: `This picture has ${(bytes / 1e6).toFixed(1)} MB.` };
    return { ok: true, message: 'It answers.' };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return { ok: false, message: error.message.replace(/; what was there before stands/, '') };
  }
}

/** Asks for the links and pictures of a mail, through the guard of addresses. Carafe’s own pages are not asked. */
export async function askLinks(
  mail: Pick<Mail, 'html'>,
  rules: FetchRules,
  isOwn: (address: string) => boolean,
): Promise<LinkAnswer[]> {
  const wanted = [...addressesOf(mail)].filter(([address]) => !isOwn(address)).slice(0, MOST);
  const answers: LinkAnswer[] = [];
  const work = async () => {
    for (let next = wanted.shift(); next; next = wanted.shift()) {
      const [address, node] = next;
      answers.push({ address, node, ...(await askOne(address, rules)) });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return answers.sort((a, b) => Number(a.ok) - Number(b.ok));
}
