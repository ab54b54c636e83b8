import { earliest, wallOf, type Occasion } from '@carafe/core/occasion';
import type { OccasionsRepository, StoredDraft } from './repository';

type Start = Occasion['start'];

/** No clock is further behind or ahead of another. */
const FURTHEST_CLOCK = 12 * 3_600_000;

/**
 * When the one time of a start is over, in milliseconds; null of a start that has more than one. By each person's clock it
 * is past when it is past everywhere.
 */
export function overAt(start: Start, zone: string): number | null {
  if (start.kind !== 'at_time') return null;
  const wall = wallOf(start.time);
  return start.clock === 'person' ? wall + FURTHEST_CLOCK : earliest(wall, start.clock, zone);
}

/** Since when the segment of a start has been watched by whatever is on, as it is published; null where nothing watches it. */
function watchedSince(occasions: OccasionsRepository, shop: string, start: Start): string | null {
  if (start.kind !== 'segment_changed') return null;
  const since = occasions.on(shop).flatMap((draft) => {
    const live = occasions.live(draft);
    const isSame = live?.start.kind === 'segment_changed' && live.start.segment === start.segment;
    return isSame && draft.watching_since !== null ? [draft.watching_since] : [];
  });
  return since.sort()[0] ?? null;
}

interface SwitchParts {
  occasions: OccasionsRepository;
  /** Says when a repeating occasion starts next. */
  setNext: (id: string) => void;
}

/**
 * Publishes a draft and switches it on, at an instant; inside a transaction. What is published already is no new version.
 * Where the start is another than before, nothing that happened until now is heeded by it.
 */
export function putOn(
  { occasions, setNext }: SwitchParts,
  stored: StoredDraft,
  occasion: Occasion,
  now: Date,
  zone: string,
): void {
  const { id, shop, published, heeded_since, on_since } = stored;
  const { start } = occasion;
  const at = now.toISOString();
  const live = occasions.live(stored);
  const isSame = live !== null && JSON.stringify(live) === JSON.stringify(occasion);
  const number = isSame ? (published ?? 1) : (occasions.versions(id)[0]?.number ?? 0) + 1;
  if (!isSame) occasions.publish(id, number, at, occasion);
  const hasSameStart = live !== null && JSON.stringify(live.start) === JSON.stringify(start);
  occasions.switchOn(id, number, {
    on: on_since ?? at,
    heeded: (hasSameStart ? heeded_since : null) ?? at,
    watching: watchedSince(occasions, shop, start) ?? at,
  });
  if (start.kind === 'at_time')
    occasions.setTime(id, earliest(wallOf(start.time), start.clock, zone), wallOf(start.time));
  else setNext(id);
}
