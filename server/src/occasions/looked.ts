import type { Start } from '@carafe/core/occasion';
import type { EventsRepository } from '../events/repository';

const DAY = 86_400_000;
/** Who looked at a product so long ago may still be interested, in days. */
export const LOOKED_DAYS = 60;

/** Whether a start asks what somebody looked at. */
export const asksLooked = ({ kind }: Start): boolean =>
  kind === 'looked_at' || kind === 'product_changed';

/** When somebody looked at products lately, in milliseconds, by SKU; `now` in milliseconds. */
export function lookedLately(
  events: Pick<EventsRepository, 'seenBy'>,
  shop: string,
  email: string,
  now: number,
): Map<string, number> {
  const since = now - LOOKED_DAYS * DAY;
  const looked = new Map<string, number>();
  for (const { kind, sku, at } of events.seenBy(shop, email)) {
    const time = Date.parse(at);
    if (kind === 'viewed' && time >= since) looked.set(sku, Math.max(time, looked.get(sku) ?? 0));
  }
  return looked;
}
