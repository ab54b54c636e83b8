import {
  earliest,
  nextWall,
  wallAt,
  wallOf,
  type Dated,
  type Occasion,
} from '@carafe/core/occasion';
import { instantOf, whatChanged, type ProductChange } from '@carafe/core/record';
import type { SharedParts } from '../shops/sharedData';

type DatedParts = Pick<SharedParts, 'sources' | 'entries'>;

interface Stretch {
  shop: string;
  drafts: readonly { id: string; occasion: Occasion }[];
  /** Milliseconds. */
  from: number;
  until: number;
  /** Of the shop. */
  zone: string;
  /** What imports have changed of its products. */
  changes: readonly ProductChange[];
}

const DAY = 86_400_000;

/** As many products of one import are told, as where occasions are on. */
export const MOST_PRODUCTS = 5_000;

/** Products that became cheaper or came back, where an occasion asks for it. */
function productsDated({ drafts, from, until, changes }: Stretch): Dated[] {
  const wanted = new Set(
    drafts.flatMap(({ occasion: { start } }) =>
      start.kind === 'product_changed' ? [start.change] : [],
    ),
  );
  const told = new Map<number, number>();
  return changes.flatMap((change) => {
    const { at, sku } = change;
    if (at < from || at > until) return [];
    return whatChanged(change).flatMap((what) => {
      const before = told.get(at) ?? 0;
      if (!wanted.has(what) || before >= MOST_PRODUCTS) return [];
      told.set(at, before + 1);
      return [{ at, happening: { kind: 'product' as const, change: what, sku } }];
    });
  });
}

/** What happened to the whole shop in a stretch of time: posts, products, and times by the clock. */
export function datedOf(parts: DatedParts, stretch: Stretch): Dated[] {
  const { shop, drafts, from, until, zone } = stretch;
  const dated: Dated[] = productsDated(stretch);
  for (const { id, occasion } of drafts) {
    const { start } = occasion;
    if (start.kind === 'post_published')
      for (const source of parts.sources
        .feeding('feed', shop)
        .filter((one) => one.formula_name === start.feed))
        for (const text of parts.entries.records(source.id)) {
          const { guid, link, published_at } = JSON.parse(text) as Record<
            string,
            string | undefined
          >;
          const at = instantOf(published_at);
          if (at >= from && at <= until)
            dated.push({
              at,
              happening: { kind: 'post', feed: start.feed, post: guid ?? link ?? '' },
            });
        }
    const time = (wall: number, clock: 'shop' | 'person') => {
      const at = earliest(wall, clock, zone);
      if (at < from || at > until) return;
      const name = new Date(wall).toISOString().slice(0, 16);
      dated.push({ at, happening: { kind: 'time', occasion: id, name, wall } });
    };
    if (start.kind === 'at_time') time(wallOf(start.time), start.clock);
    if (start.kind === 'repeating')
      for (
        let wall = nextWall(start, wallAt(from, zone) - 1);
        wall <= wallAt(until, zone) + DAY;
        wall = nextWall(start, wall)
      )
        time(wall, start.clock);
  }
  return dated.sort((a, b) => a.at - b.at);
}
