import { ENDPOINTS, type RecipientList } from '@carafe/contract';
import { ask } from '../../app/ask';
import type { DeskState } from './deskSlice';

/** So many recipients are asked for at a time. */
const PAGE = 200;

type Narrowed = Pick<DeskState, 'filter' | 'having' | 'search'>;
let ahead: { question: string; answer: Promise<RecipientList> } | null = null;

const questionOf = (shop: string, { filter, having, search }: Narrowed, offset: number) => ({
  params: { shop },
  query: { ...filter, having, q: search, offset, limit: PAGE },
});

/** A page of a shop's recipients, as they are narrowed down; what was asked for ahead is not asked for again. */
export function askRecipients(shop: string, by: Narrowed, offset: number): Promise<RecipientList> {
  const asked = questionOf(shop, by, offset);
  const known = ahead?.question === JSON.stringify(asked) ? ahead.answer : null;
  ahead = null;
  return known ?? ask(ENDPOINTS.listRecipients, asked);
}

/** Asks for the first page while the desk is still to be drawn. What fails is asked for again by the desk, which tells it. */
export function askRecipientsAhead(shop: string, by: Narrowed): Promise<RecipientList | null> {
  const asked = questionOf(shop, by, 0);
  const question = JSON.stringify(asked);
  const answer = ask(ENDPOINTS.listRecipients, asked);
  ahead = { question, answer };
  return answer.catch(() => {
    if (ahead?.question === question) ahead = null;
    return null;
  });
}
