import { MessageChannel } from 'node:worker_threads';
import { LocalLane, lendLane, RemoteLane } from './lane';
import { Slices } from './slices';
import { openStore } from './store';
import { join } from 'node:path';

const gate = () => {
  let open: () => void = () => undefined;
  const promise = new Promise<void>((resolve) => (open = resolve));
  return { promise, open };
};

describe('the lane of writers', () => {
  it('lets one write at a time, who came first first', async () => {
    const lane = new LocalLane();
    const seen: string[] = [];
    const first = gate();
    const a = lane.turn(() => first.promise.then(() => void seen.push('a')));
    const b = lane.turn(() => void seen.push('b'));
    first.open();
    await Promise.all([a, b]);
    expect(seen).toEqual(['a', 'b']);
  });

  it('goes on after work that failed, and gives what work gives', async () => {
    const lane = new LocalLane();
    await expect(lane.turn(() => Promise.reject(new Error('lost')))).rejects.toThrow('lost');
    expect(await lane.turn(() => 'kept')).toBe('kept');
  });

  it('is lent to a thread a turn at a time, and comes back when the thread ends in the middle', async () => {
    const lane = new LocalLane();
    const { port1, port2 } = new MessageChannel();
    lendLane(lane, port1);
    const remote = new RemoteLane(port2, lane.waiting);
    const seen: string[] = [];
    const held = gate();
    const started = gate();
    const theirs = remote.turn(() => {
      started.open();
      return held.promise.then(() => void seen.push('thread'));
    });
    await started.promise;
    expect(remote.isWanted()).toBe(false);
    const ours = lane.turn(() => void seen.push('server'));
    // A thread that writes sees that somebody waits, without being told in a message.
    expect(remote.isWanted()).toBe(true);
    held.open();
    await Promise.all([theirs, ours]);
    expect(seen).toEqual(['thread', 'server']);
    expect(remote.isWanted()).toBe(false);
    // A turn that is never given back.
    const never = gate();
    void remote.turn(() => {
      never.open();
      return new Promise(() => undefined);
    });
    await never.promise;
    port1.close();
    expect(await lane.turn(() => 'free')).toBe('free');
  });
});

describe('writing in slices', () => {
  const store = openStore(':memory:', join(__dirname, '..', '..', 'migrations'), new LocalLane());
  store.db.exec('CREATE TABLE numbers (n INTEGER)');
  const count = () => store.db.prepare<[], number>('SELECT COUNT(*) FROM numbers').pluck().get();
  const insert = store.db.prepare('INSERT INTO numbers VALUES (?)');
  afterAll(() => store.close());

  it('lets others write in between, and does all of the work', async () => {
    let at = 0;
    let slices = 0;
    const order: string[] = [];
    const work = store.writeInSlices((size) => {
      slices++;
      order.push('slice');
      for (let i = 0; i < size && at < 5_000; i++) insert.run(at++);
      return at < 5_000;
    });
    const save = store.write(() => void order.push('save'));
    await Promise.all([work, save]);
    expect(count()).toBe(5_000);
    expect(slices).toBeGreaterThan(1);
    // The save came second and went second, though the long work was not over.
    expect(order.slice(0, 2)).toEqual(['slice', 'save']);
  });

  it('puts slices into one transaction as long as nobody waits, and each into its own once somebody did', () => {
    let done = 0;
    let isWanted = false;
    const slices = new Slices(
      store.db,
      () => ++done < 100,
      () => isWanted,
    );
    // How many slices each transaction takes.
    const transaction = () => {
      const before = done;
      store.db.transaction(() => slices.some())();
      return done - before;
    };
    isWanted = true;
    expect(transaction()).toBe(1);
    isWanted = false;
    expect([transaction(), transaction()]).toEqual([1, 1]);
    const alone = new Slices(
      store.db,
      () => ++done < 100,
      () => false,
    );
    expect(alone.some()).toBe(false);
    expect(done).toBe(100);
  });

  it('in bulk takes all of a transaction back that fails, and looks at references again after it', async () => {
    const own = openStore(':memory:', join(__dirname, '..', '..', 'migrations'), new LocalLane());
    own.db.exec(
      'CREATE TABLE parts (of INTEGER REFERENCES wholes (id)); CREATE TABLE wholes (id INTEGER PRIMARY KEY)',
    );
    const part = own.db.prepare('INSERT INTO parts VALUES (7)');
    const parts = own.db.prepare<[], number>('SELECT COUNT(*) FROM parts').pluck();
    let turns = 0;
    await own.writeInBulk(() => {
      part.run();
      return ++turns < 3;
    });
    expect(parts.get()).toBe(3);
    const failing = own.writeInBulk(() => {
      part.run();
      if (++turns === 6) throw new Error('full');
      return true;
    });
    await expect(failing).rejects.toThrow('full');
    expect(parts.get()).toBe(3);
    expect(() => part.run()).toThrow(/FOREIGN KEY/);
    own.close();
  });

  it('takes a slice back that fails, and nothing else', async () => {
    const before = count();
    let turns = 0;
    await expect(
      store.writeInSlices(() => {
        insert.run(1);
        if (++turns === 2) throw new Error('full');
        return true;
      }),
    ).rejects.toThrow('full');
    expect(count()).toBe((before ?? 0) + 1);
  });
});
