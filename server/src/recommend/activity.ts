import { standing, type PersonData } from '@carafe/core/record';
import type { Activity, Asked, Bought, Seen } from '@carafe/core/recommend';
import type { Fields } from '@carafe/core/formula';
import type { EventsRepository } from '../events/repository';
import type { ShopsRepository } from '../shops/repository';

type Looks = Pick<EventsRepository, 'seen' | 'seenBy'>;
type SeenEvent = Omit<ReturnType<Looks['seenBy']>[number], 'owner'>;

/** All that somebody bought, as lines of a history. Money of another currency than the shop's is not counted as such. */
function boughtBy({ shopper }: PersonData, currency: string): Bought[] {
  return standing(shopper.orders).flatMap(({ placed_at, currency: own, lines }) => {
    const at = Date.parse(placed_at);
    return lines.map(({ sku, name, quantity, price }) => ({
      ...{ sku, name, at, quantity, price: own === currency ? price : 0 },
    }));
  });
}

/** What was put into carts, but for what the person took out again themselves. */
function cartedIn(seen: readonly SeenEvent[], until: number): Seen[] {
  const inTime = seen
    .filter(({ kind, at }) => kind !== 'viewed' && Date.parse(at) <= until)
    .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  let carted: Seen[] = [];
  for (const { kind, sku, at } of inTime)
    if (kind === 'cart_added') carted.push({ sku, at: Date.parse(at) });
    else carted = carted.filter((one) => one.sku !== sku);
  return carted;
}

const addressOf = ({ person }: PersonData): string => String(person['email'] ?? '');
const countryOf = ({ person }: PersonData): string | undefined =>
  typeof person['country'] === 'string' && person['country'] !== '' ? person['country'] : undefined;

function activityOf(
  data: PersonData,
  seen: readonly SeenEvent[],
  currency: string,
  until = Number.POSITIVE_INFINITY,
): Activity {
  const viewed = seen.flatMap(({ kind, sku, at }) =>
    kind === 'viewed' ? [{ sku, at: Date.parse(at) }] : [],
  );
  return {
    ...{ person: addressOf(data), country: countryOf(data), bought: boughtBy(data, currency) },
    ...{ viewed, carted: cartedIn(seen, until) },
  };
}

interface ActivityParts {
  events: Looks;
  shops: Pick<ShopsRepository, 'find'>;
}
const currencyOf = ({ shops }: ActivityParts, shop: string): string =>
  shops.find(shop)?.currency ?? '';

/** What some people of a shop did. */
export function activityOfSome(
  parts: ActivityParts,
  shop: string,
  people: readonly { data: PersonData }[],
): Activity[] {
  const currency = currencyOf(parts, shop);
  return people.map(({ data }) =>
    activityOf(data, parts.events.seenBy(shop, addressOf(data)), currency),
  );
}

/** What everybody in a shop did until an instant (milliseconds), one after the other. */
export function* activityOfAll(
  parts: ActivityParts & { people: { all(shop: string): Iterable<PersonData> } },
  shop: string,
  until?: number,
): Generator<Activity> {
  const { events, people } = parts;
  const currency = currencyOf(parts, shop);
  const seen = new Map<string, SeenEvent[]>();
  for (const { owner, ...one } of events.seen(shop)) {
    const known = seen.get(owner);
    if (known) known.push(one);
    else seen.set(owner, [one]);
  }
  for (const data of people.all(shop))
    yield activityOf(data, seen.get(addressOf(data)) ?? [], currency, until);
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
