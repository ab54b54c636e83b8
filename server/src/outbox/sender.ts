import { staysHere, type MailSettings } from '@carafe/contract';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { Door } from '../mail/door';
import type { RulesService } from '../recommend/service';
import { MOST_TRIES, type DeliverJobs } from './deliver';
import type { OutboxJobs } from './fill';
import type { MovedOver } from './judge';
import type { Lease } from './lease';
import { isPaused, pauseAfter, type Pause } from './pauses';
import type { OutboxRepository } from './repository';

interface Given {
  store: Pick<Store, 'write'>;
  outbox: OutboxRepository;
  jobs: Jobs<OutboxJobs & DeliverJobs>;
  door: Pick<Door, 'way'>;
  settings: () => MailSettings;
  rules: Pick<RulesService, 'task'>;
  lease: Lease;
  updates: LiveUpdates;
  log: Logger;
  now: () => Date;
  /** Where links in mails lead, unless settings say otherwise. */
  self: () => string;
}

/** So many mails are filled, and handed over, at a time: a template is made ready once for each of these. */
const FILL = 2_000;
/** More than these are filled in two threads. */
const FEW = 40;
const DELIVER = 200;
const MINUTE = 60_000;
/**
 * What was filled longer ago, because only so many leave in a minute or the door was shut, is filled anew before it goes:
 * somebody may have ordered or unsubscribed since.
 */
const STALE = 5 * MINUTE;
const IN_DOUBT =
  'Carafe was stopped, or could not save, while the mail server had this email. It may or may not have been sent.';

/** What keeps mails from leaving now; null where nothing does. */
export interface SenderState {
  paused: string | null;
  /** Milliseconds; when it is tried again. */
  until: number | null;
}

/** Sends what is in the outbox: fills what waits, hands over what is ready, one piece after the other. */
export class Sender {
  private running: Promise<void> | null = null;
  private again = false;
  /** Whether mails may be left in the mail server’s hands: by the last stop, or where something failed. */
  private isUnsettled = true;
  private isStopped = false;
  private paused: Pause | null = null;
  private minute = { begun: 0, sent: 0 };
  /** What the clock was moved over last: what was due then goes as of its own time. */
  private moved: MovedOver | null = null;

  constructor(private readonly given: Given) {}

  state(): SenderState {
    return { paused: this.paused?.why ?? null, until: this.paused?.until ?? null };
  }

  /** Sends whatever can go. Whoever asks meanwhile waits for what is done then. */
  kick(): Promise<void> {
    if (this.isStopped) return this.running ?? Promise.resolve();
    if (this.running) {
      this.again = true;
      return this.running;
    }
    this.running = this.work()
      .catch((error: unknown) => {
        this.given.log.error(error);
        this.isUnsettled = true;
      })
      .finally(() => {
        this.running = null;
      });
    return this.running;
  }

  /** The clock was moved on: what is due in between goes as of its own time. Milliseconds. */
  clockMoved(from: number, to: number): void {
    this.moved = { from, to };
  }

  /** What the rule of sending is asked with. */
  private judging(at: number, ids: readonly string[]) {
    const { outbox, rules } = this.given;
    const shops = outbox.shopsOf(ids);
    const picks = Object.fromEntries(shops.map((shop) => [shop, rules.task(shop)]));
    return { now: at, moved: this.moved, picks };
  }

  /** Tries again at once: what kept mails from leaving may be mended. */
  afresh(): void {
    this.paused = null;
    this.tell();
    void this.kick();
  }

  private async work(): Promise<void> {
    const { lease } = this.given;
    if (!(await lease.take())) {
      this.paused = {
        ...{ why: 'Another Carafe sends from this database, so this one does not.', pause: 0 },
        until: this.given.now().getTime() + MINUTE,
      };
      return;
    }
    if (this.isUnsettled) await this.settleDoubts();
    this.isUnsettled = false;
    if (this.paused && this.paused.pause === 0) this.paused = null;
    do {
      this.again = false;
      while (!this.isStopped && (await lease.holding(() => this.piece())))
        // Whoever took it meanwhile sends; this one does not.
        if (!(await lease.take())) return;
    } while (this.again && !this.isStopped);
  }

  /** What was left in the mail server’s hands. */
  private async settleDoubts(): Promise<void> {
    const { store, outbox } = this.given;
    const left = outbox.ofState('sending');
    if (left.length === 0) return;
    await store.write(() => {
      for (const id of left) outbox.move(id, 'sending', 'in_doubt', IN_DOUBT);
    });
    await this.settleByRule(left);
  }

  /** Settles what is in doubt as the settings say; what was tried often enough waits for somebody. */
  private async settleByRule(doubts: readonly string[]): Promise<void> {
    const { outbox, settings } = this.given;
    const { in_doubt } = settings();
    if (in_doubt === 'ask') return;
    for (const { id, attempts } of outbox.some(doubts))
      if (in_doubt === 'sent' || attempts < MOST_TRIES) await this.settle(id, in_doubt);
  }

  /** Settles a mail that is in doubt: it counts as sent, or is sent once more. */
  async settle(id: string, as: 'sent' | 'again'): Promise<boolean> {
    return this.given.store.write(() => this.settleNow(id, as));
  }

  /** The same inside a transaction. */
  settleNow(id: string, as: 'sent' | 'again'): boolean {
    const { outbox, now, settings } = this.given;
    if (as === 'again') return outbox.move(id, 'in_doubt', 'ready', 'Sent again, as requested.');
    if (outbox.find(id)?.state !== 'in_doubt') return false;
    outbox.sent(id, now().toISOString(), staysHere(settings()));
    return true;
  }

  /** Does one piece; false where there is nothing to do now. */
  private async piece(): Promise<boolean> {
    const { outbox, jobs, now, settings, self } = this.given;
    const at = now().getTime();
    const wait = outbox.toDo('waiting', at, FILL);
    if (wait.length > 0) {
      const own = settings();
      const base = (own.public_url ?? self()).replace(/\/+$/, '');
      const common = { ...this.judging(at, wait), settings: own, base };
      const half = wait.length > FEW ? Math.ceil(wait.length / 2) : wait.length;
      await Promise.all(
        [wait.slice(0, half), wait.slice(half)]
          .filter((ids) => ids.length > 0)
          .map((ids) => jobs.run('fillMails', { ids, ...common })),
      );
      this.tell();
      return true;
    }
    return this.deliver(at);
  }

  private async deliver(at: number): Promise<boolean> {
    const { store, outbox, jobs, door, settings } = this.given;
    if (isPaused(this.paused, at)) return false;
    const most = this.room(at);
    const ids = most === 0 ? [] : outbox.toDo('ready', at, Math.min(DELIVER, most));
    if (ids.length === 0) return false;
    const old = outbox.filledBefore(ids, at - STALE);
    if (old.length > 0) {
      await store.write(() => {
        for (const id of old) outbox.fillAnew(id);
      });
      return true;
    }
    const own = settings();
    let way;
    try {
      way = door.way(own, own.test_only);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.shut(error.message, at);
      return false;
    }
    const { sent, shut, doubts } = await jobs.run('deliver', {
      ...this.judging(at, ids),
      ...{ ids, way, testOnly: staysHere(own) },
    });
    await this.settleByRule(doubts);
    this.minute.sent += sent;
    this.tell();
    if (shut !== null) {
      this.shut(shut, at);
      return false;
    }
    this.paused = null;
    return true;
  }

  /** The door is shut: it is tried again after a pause that grows, a quarter of an hour at most. */
  private shut(why: string, at: number): void {
    this.paused = pauseAfter(this.paused, why, at);
    this.tell();
  }

  /** How many may still leave in this minute. */
  private room(at: number): number {
    const { per_minute } = this.given.settings();
    if (per_minute === 0) return DELIVER;
    // A clock that was put back begins a minute of its own.
    if (Math.abs(at - this.minute.begun) >= MINUTE) this.minute = { begun: at, sent: 0 };
    return Math.max(0, per_minute - this.minute.sent);
  }

  private tell(): void {
    this.given.updates.publish({ type: 'outbox' });
  }

  /** Waits for the piece that is being done, however many are left, and gives the lease back. */
  async stop(): Promise<void> {
    this.isStopped = true;
    await this.running;
    await this.given.lease.giveBack();
  }
}
