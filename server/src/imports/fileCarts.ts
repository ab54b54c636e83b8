import type { ShopEvent } from '@carafe/core/record';

const CART_KINDS = new Set<ShopEvent['kind']>([
  'cart_added',
  'cart_changed',
  'cart_removed',
  'order_placed',
]);

/** What is asked of an event. */
type CartEvent = Pick<ShopEvent, 'shop' | 'email' | 'at' | 'kind'> & {
  currency?: string | undefined;
};

interface Last {
  at: string;
  /** What was put into the cart last, if nothing else became of the cart since: its currency. */
  added: string | null;
  /** The events of this person do not stand in order of time. */
  isDoubtful: boolean;
}

/**
 * Tells, while a file of events is read, which orders surely follow something that was put into the cart:
 * then the cart is not empty, and nobody need look. Sure as long as a person's events stand in order of
 * time and there are none but the file's.
 */
export class FileCarts {
  /** By shop and address. */
  private readonly shops = new Map<string, Map<string, Last>>();
  private isSomebodyUnknown = false;

  /** Takes the next event; says whether it is an order that follows what was put into the cart. */
  see(event: CartEvent): boolean {
    const { shop, email, at, kind } = event;
    if (email === undefined) {
      // It may turn out to be anybody's.
      this.isSomebodyUnknown = true;
      return false;
    }
    let people = this.shops.get(shop);
    if (!people) this.shops.set(shop, (people = new Map()));
    let last = people.get(email);
    if (!last) people.set(email, (last = { at, added: null, isDoubtful: false }));
    if (at < last.at) last.isDoubtful = true;
    last.at = at;
    const { added } = last;
    if (CART_KINDS.has(kind)) last.added = kind === 'cart_added' ? (event.currency ?? null) : null;
    return kind === 'order_placed' && added !== null && (event.currency ?? added) === added;
  }

  /** Whose orders are not sure after all: shop and address, a blank between. */
  doubtful(): 'all' | string[] {
    if (this.isSomebodyUnknown) return 'all';
    return [...this.shops].flatMap(([shop, people]) =>
      [...people].flatMap(([email, { isDoubtful }]) => (isDoubtful ? [`${shop} ${email}`] : [])),
    );
  }
}
