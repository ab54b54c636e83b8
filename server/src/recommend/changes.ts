import type { LiveUpdates } from '../live/liveUpdates';
import type { Change } from './ready';

/** So many changes are told; whoever is further behind reads all anew. */
const MOST_KEPT = 300;
/** Of more people than these it is not told one by one. */
const MOST_PEOPLE = 1_000;

/** Counts what changes in shops, so that indexes can catch up instead of being made anew. */
export class Changes {
  private turn = 0;
  private readonly kept: Change[] = [];

  constructor(updates: LiveUpdates) {
    updates.listen(({ update }) => {
      if (update.type === 'shared') this.add({ shop: update.shop, people: [] });
      if (update.type !== 'people') return;
      const { shop, ids } = update;
      this.add({ shop, people: ids.length === 0 || ids.length > MOST_PEOPLE ? null : ids });
    });
  }

  private add(change: Omit<Change, 'turn'>): void {
    this.kept.push({ ...change, turn: ++this.turn });
    if (this.kept.length > MOST_KEPT) this.kept.shift();
  }

  /** What work on a shop is told of it. */
  of(shop: string, now: Date) {
    return { shop, now: now.toISOString(), turn: this.turn, changes: [...this.kept] };
  }
}
