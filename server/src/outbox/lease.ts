import { hostname } from 'node:os';
import type { Store } from '../database/store';
import type { LeaseRepository } from './leaseRepository';

/** Whoever does not renew it within so long has given it up, in milliseconds. */
const LEASE_MS = 30_000;

interface Given {
  store: Pick<Store, 'write'>;
  lease: LeaseRepository;
  /** The real time, in milliseconds: two processes compare it. */
  real: () => number;
  holder: string;
  pid: number;
}

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // A process of somebody else’s is alive too.
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
};

/** One process sends: two Carafes on one database would send twice. */
export class Lease {
  private held = false;

  constructor(private readonly given: Given) {}

  /** Takes or renews the lease; false where another process holds it. */
  async take(): Promise<boolean> {
    const { store, lease, real, holder, pid } = this.given;
    const now = real();
    this.held = await store.write(() => {
      const current = lease.get();
      const isOther = current !== null && current.holder !== holder;
      const isGone = current?.host === hostname() && (current.pid === pid || !isAlive(current.pid));
      if (isOther && !isGone && current.until > now) return false;
      lease.put({ holder, host: hostname(), pid, until: now + LEASE_MS });
      return true;
    });
    return this.held;
  }

  /** Does something that may take longer than the lease lasts, as handing over to a slow mail server: it is renewed meanwhile. */
  async holding<T>(work: () => Promise<T>): Promise<T> {
    const failures: unknown[] = [];
    const renewing = setInterval(() => {
      this.take().catch((error: unknown) => failures.push(error));
    }, LEASE_MS / 3);
    const done = await work().finally(() => clearInterval(renewing));
    // What kept it from being renewed is told, not passed over.
    if (failures.length > 0) throw failures[0];
    return done;
  }

  async giveBack(): Promise<void> {
    const { store, lease, holder } = this.given;
    if (this.held) await store.write(() => lease.drop(holder));
    this.held = false;
  }
}
