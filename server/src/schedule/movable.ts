import type { ClockAnswer } from '@carafe/contract';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { LiveUpdates } from '../live/liveUpdates';
import type { ClockRepository } from './clockRepository';

interface Given {
  store: Pick<Store, 'write'>;
  movedClock: ClockRepository;
  now: () => Date;
  /** Lets the server’s clock be so many milliseconds ahead. */
  setMoved: (milliseconds: number) => void;
  isTestOnly: () => boolean;
  moveTo: (at: number) => Promise<void>;
  /** Waits until what happened so far has been answered. */
  idle: () => Promise<void>;
  updates: LiveUpdates;
}

const MINUTE = 60_000;

/** A clock that can be moved on, as long as mails go nowhere but to the stand-in mailbox. */
export class MovableClock {
  constructor(private readonly given: Given) {}

  read(): ClockAnswer {
    const { now, movedClock } = this.given;
    return { now: now().toISOString(), moved: Math.round(movedClock.moved() / MINUTE) };
  }

  private async set(moved: number): Promise<void> {
    const { store, movedClock, setMoved, updates } = this.given;
    await store.write(() => movedClock.move(moved));
    setMoved(moved);
    updates.publish({ type: 'clock' });
  }

  private refuseReal(): void {
    if (!this.given.isTestOnly())
      throw new Refusal(
        409,
        'The clock can only be moved in test-only mode. Otherwise people would get emails too early.',
      );
  }

  async move(minutes: number): Promise<ClockAnswer> {
    this.refuseReal();
    // What happened before belongs to the time before.
    await this.given.idle();
    await this.set(this.given.movedClock.moved() + minutes * MINUTE);
    await this.given.moveTo(this.given.now().getTime());
    return this.read();
  }

  async reset(): Promise<ClockAnswer> {
    this.refuseReal();
    await this.set(0);
    return this.read();
  }
}
