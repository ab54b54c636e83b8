import { standing, type PersonData } from '@carafe/core/record';
import type { Activity, Asked, Bought, Seen } from '@carafe/core/recommend';
import type { Fields } from '@carafe/core/formula';
import type { EventsRepository } from '../events/repository';

type Looks = Pick<EventsRepository, 'seen' | 'seenBy'>;
type SeenEvent = Omit<ReturnType<Looks['seenBy']>[number], 'owner'>;

/** All that somebody bought, as lines of a history. */
function boughtBy({ shopper }: PersonData): Bought[] {
  return standing(shopper.orders).flatMap(({ placed_at, lines }) => {
    const at = Date.parse(placed_at);
    return lines.map(({ sku, quantity, price }) => ({ sku, at, quantity, price }));
  });
}

const addressOf = ({ person }: PersonData): string => String(person['email'] ?? '');
const countryOf = ({ person }: PersonData): string | undefined =>
  typeof person['country'] === 'string' && person['country'] !== '' ? person['country'] : undefined;

function activityOf(data: PersonData, seen: readonly SeenEvent[]): Activity {
  const of = (kind: SeenEvent['kind']): Seen[] =>
    seen.flatMap((one) => (one.kind === kind ? [{ sku: one.sku, at: Date.parse(one.at) }] : []));
  return {
    ...{ person: addressOf(data), country: countryOf(data), bought: boughtBy(data) },
    ...{ viewed: of('viewed'), carted: of('cart_added') },
  };
}

/** What some people of a shop did. */
export function activityOfSome(
  events: Looks,
  shop: string,
  people: readonly { data: PersonData }[],
): Activity[] {
  return people.map(({ data }) => activityOf(data, events.seenBy(shop, addressOf(data))));
}

/** What everybody in a shop did, one after the other. */
export function* activityOfAll(
  { events, people }: { events: Looks; people: { all(shop: string): Iterable<PersonData> } },
  shop: string,
): Generator<Activity> {
  const seen = new Map<string, SeenEvent[]>();
  for (const { owner, ...one } of events.seen(shop)) {
    const known = seen.get(owner);
    if (known) known.push(one);
    else seen.set(owner, [one]);
  }
  for (const data of people.all(shop)) yield activityOf(data, seen.get(addressOf(data)) ?? []);
}

/** What of a person a rule is asked with. */
export function askedFor(data: PersonData, now: number): Asked {
  const { shopper, person } = data;
  const skus = (lines: readonly { sku: string }[] = []) => lines.map(({ sku }) => sku);
  const order = standing(shopper.orders).at(-1);
  return {
    person: addressOf(data),
    country: countryOf(data),
    cart: skus(shopper.cart?.lines),
    latest: skus(order?.lines),
    record: {
      person,
      ...(shopper.cart && { cart: shopper.cart }),
      ...(order && { order }),
    } as Fields,
    now,
  };
}
