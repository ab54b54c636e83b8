import { pino } from 'pino';
import { Clock, every } from './clock';

let now = new Date('2026-11-24T09:00:00Z');
const clockOf = (log = pino({ level: 'silent' })) => new Clock(() => now, log);

describe('the clock', () => {
  it('lets one tick end before the next begins', async () => {
    const clock = clockOf();
    let begun = 0;
    let release = () => undefined as void;
    clock.onTick(() => {
      begun++;
      return new Promise<void>((done) => (release = done));
    });
    const first = clock.tick();
    await clock.tick();
    expect(begun).toBe(1);
    release();
    await first;
    const next = clock.tick();
    expect(begun).toBe(2);
    release();
    await next;
  });

  it('goes on with the others when one of its listeners fails, and the failure is logged', async () => {
    const log = pino({ level: 'silent' });
    const errors: unknown[] = [];
    log.error = ((error: unknown) => errors.push(error)) as typeof log.error;
    const clock = clockOf(log);
    const done: string[] = [];
    clock.onTick(() => Promise.reject(new Error('no')));
    clock.onTick(() => Promise.resolve(void done.push('second')));
    await clock.tick();
    expect(done).toEqual(['second']);
    expect(errors).toHaveLength(1);
  });

  it('says how long ago it ticked', async () => {
    const clock = clockOf();
    expect(clock.age()).toBeNull();
    await clock.tick();
    now = new Date(now.getTime() + 42_000);
    expect(clock.age()).toBe(42);
  });

  it('does daily work at its first tick, and again a day later', async () => {
    let times = 0;
    const work = every(
      24,
      () => now,
      () => Promise.resolve(void times++),
    );
    await work();
    now = new Date(now.getTime() + 3_600_000);
    await work();
    expect(times).toBe(1);
    now = new Date(now.getTime() + 86_400_000);
    await work();
    expect(times).toBe(2);
  });
});
