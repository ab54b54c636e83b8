import type { Fields } from '../formula';
import {
  foldEvents,
  type PersonData,
  type Products,
  type SharedData,
  type ShopEvent,
} from '../record';
import { momentsOf } from './moment';
import { Occasion, type Step } from './occasion';
import { planOf, type Plan } from './plan';
import { FIRST_RULES, type ShopRules } from './shopRules';
import type { World } from './plan';

/** For tests: a shop, people and occasions of a few words. */
export const at = (time: string): number => Date.parse(`2026-11-${time}:00Z`);

const SHARED: SharedData = {
  shop: {
    name: 'S',
    url: 'https://s.example',
    timezone: 'Europe/London',
    locale: 'en-GB',
    currency: 'GBP',
  } as Fields,
  catalog: {},
  feeds: {},
  coupon: {},
};

const NO_PRODUCTS = new Map<string, Fields>();

export const momentsFor = (
  rules: Partial<ShopRules> = {},
  segments: { name: string; formula: string }[] = [],
  products: (at: number) => Products = () => NO_PRODUCTS,
) =>
  momentsOf({
    ...{ shared: SHARED, products, named: new Map(), segments },
    rules: { ...FIRST_RULES, ...rules },
  });

export const person = (events: readonly ShopEvent[] = [], fields: object = {}): PersonData => ({
  person: { email: 'maud@s.example', consent: true, guest: false, ...fields },
  shopper: foldEvents(events),
});

let count = 0;
const head = (time: number) => ({
  ...{ id: `e${++count}`, shop: 's', email: 'maud@s.example', at: new Date(time).toISOString() },
});
export const added = (time: number, sku = 'A'): ShopEvent => ({
  ...head(time),
  ...{ kind: 'cart_added', sku, name: sku, price: 10, quantity: 1, currency: 'GBP' },
});
export const ordered = (time: number, number = 'O1'): ShopEvent => ({
  ...{ ...head(time), kind: 'order_placed', number },
});
export const became = (time: number, status: string, number = 'O1'): ShopEvent => ({
  ...{ ...head(time), kind: 'order_status_changed', number, status },
});
export const viewed = (time: number, sku = 'A'): ShopEvent => ({
  ...{ ...head(time), kind: 'viewed', sku },
});

export const occasion = (given: Partial<Occasion> & { steps: Step[] }): Occasion =>
  Occasion.parse({
    ...{ name: 'Test', start: { kind: 'cart_left' }, whom: { guests: true }, priority: 5 },
    ...given,
  });
export const send = (id: string, more: object = {}): Step => ({
  ...{ id, kind: 'send', template: 't', mail: 'marketing', mode: 'on', to: 'person' },
  ...more,
});
export const wait = (
  id: string,
  n: number,
  unit: 'minutes' | 'hours' | 'days' = 'hours',
): Step => ({
  ...{ id, kind: 'wait', for: { n, unit } },
});
export const guard = (
  id: string,
  when: string,
  otherwise: 'stop' | 'skip' | 'ask_again' = 'stop',
): Step => ({ id, kind: 'guard', when, otherwise });

export const worldOf = (...occasions: Occasion[]): World => {
  const plans: Plan[] = occasions.map((one, i) => planOf(`o${i + 1}`, 1, one, 0));
  return { plans, plan: (id) => plans.find((one) => one.id === id) ?? null };
};
