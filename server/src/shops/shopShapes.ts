import { setTimeout as pause } from 'node:timers/promises';
import type { Logger } from 'pino';
import type { Shape } from '@carafe/core/shape';
import type { Store } from '../database/store';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { ShapeJobs } from './shapes';
import type { ShapesRepository } from './shapesRepository';

/** Whoever asks waits so long for the shape as it is now; then the one before it does. */
const PATIENCE_MS = 1_000;

interface Known {
  shape: Shape;
  /** After which change it was worked out; none of this start for one that was kept. */
  state: number | null;
}
interface Run {
  state: number;
  shape: Promise<Shape>;
}
interface Given {
  jobs: Jobs<ShapeJobs>;
  store: Pick<Store, 'write'>;
  shapes: ShapesRepository;
  updates: LiveUpdates;
  now: () => Date;
  log: Pick<Logger, 'error'>;
}

/**
 * The shapes of shops, worked out beside the server and known until something changes. Of very many people that takes
 * seconds: meanwhile the one before is told, and pages hear when there is another. One is worked out at a time for a shop,
 * and of many people not without a rest of the same length, whatever happens in the shop.
 */
export class ShopShapes {
  private readonly known = new Map<string, Known>();
  private readonly running = new Map<string, Run>();
  private readonly states = new Map<string, number>();
  private ofAll = 0;
  /** Shops of which somebody was told a shape that may be another by now. */
  private readonly late = new Set<string>();
  /** Until when work of a shop rests, on the clock of `performance`. */
  private readonly rests = new Map<string, number>();

  constructor(
    private readonly given: Given,
    private readonly patience = PATIENCE_MS,
  ) {
    given.updates.listen(({ update }) => {
      if (update.type !== 'people' && update.type !== 'shared') return;
      if (update.shop === null) this.ofAll++;
      else this.states.set(update.shop, (this.states.get(update.shop) ?? 0) + 1);
    });
  }

  async of(shop: string): Promise<Shape> {
    const known = this.known.get(shop) ?? this.kept(shop);
    if (known?.state === this.state(shop)) return known.shape;
    const fresh = this.fresh(shop, this.state(shop));
    if (!known) return fresh;
    const inTime = await Promise.race([fresh, pause(this.patience, null, { ref: false })]);
    if (inTime) return inTime;
    this.late.add(shop);
    return known.shape;
  }

  private state(shop: string): number {
    return this.ofAll + (this.states.get(shop) ?? 0);
  }

  private kept(shop: string): Known | null {
    const shape = this.given.shapes.find(shop);
    return shape && { shape, state: null };
  }

  private async fresh(shop: string, state: number): Promise<Shape> {
    const run = this.running.get(shop) ?? this.begin(shop);
    const shape = await run.shape;
    // What began before the last change is not what was asked for.
    return run.state >= state ? shape : this.fresh(shop, state);
  }

  private begin(shop: string): Run {
    const run = { state: this.state(shop), shape: Promise.resolve<Shape>({ kind: 'any' }) };
    run.shape = this.work(shop, run).finally(() => this.running.delete(shop));
    this.running.set(shop, run);
    return run;
  }

  private async work(shop: string, run: Run): Promise<Shape> {
    const { jobs, now } = this.given;
    const rest = (this.rests.get(shop) ?? 0) - performance.now();
    if (rest > 0) {
      await pause(rest, null, { ref: false });
      run.state = this.state(shop);
    }
    const began = performance.now();
    const shape = await jobs.run('shape', { shop, now: now().toISOString() });
    const took = performance.now() - began;
    const isLong = took > this.patience;
    if (isLong) this.rests.set(shop, performance.now() + took);
    await this.keep(shop, { shape, state: run.state }, isLong);
    return shape;
  }

  private async keep(shop: string, known: Known, isLong: boolean): Promise<void> {
    const { log, shapes, store, updates } = this.given;
    const before = this.known.get(shop) ?? this.kept(shop);
    this.known.set(shop, known);
    if (JSON.stringify(before?.shape) === JSON.stringify(known.shape)) return;
    if (this.late.delete(shop)) updates.publish({ type: 'shape', shop });
    if (!isLong) return;
    try {
      await store.write(() => shapes.put(shop, known.shape));
    } catch (error) {
      // It is told all the same; after a start it is worked out anew.
      log.error({ err: error, shop }, 'The shape of a shop could not be kept.');
    }
  }
}
