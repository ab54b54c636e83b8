import { LruCache } from './lruCache';

describe('answers that are kept', () => {
  it('are worked out once, also while the first is under way', async () => {
    const cache = new LruCache<number>();
    let made = 0;
    const make = () => Promise.resolve(++made);
    const answers = await Promise.all([cache.get('q', make), cache.get('q', make)]);
    expect([...answers, await cache.get('q', make)]).toEqual([1, 1, 1]);
  });

  it('are no failures: those are tried again', async () => {
    const cache = new LruCache<number>();
    await expect(cache.get('q', () => Promise.reject(new Error('once')))).rejects.toThrow('once');
    expect(await cache.get('q', () => Promise.resolve(2))).toBe(2);
  });

  it('are the latest that were asked for', async () => {
    const cache = new LruCache<string>();
    const ask = (question: string, answer: string) =>
      cache.get(question, () => Promise.resolve(answer));
    await ask('kept', 'first');
    for (let i = 0; i < 7; i++) await ask(`q${i}`, '');
    expect(await ask('kept', 'again')).toBe('first');
    await ask('q7', '');
    expect(await ask('kept', 'again')).toBe('first');
    expect(await ask('q0', 'again')).toBe('again');
  });
});
