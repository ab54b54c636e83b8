import { WriteGate } from './gate';
import { Latest } from './latest';

const later = () => {
  let done: () => void = () => undefined;
  const promise = new Promise<void>((resolve) => (done = resolve));
  return { promise, done };
};

describe('the gate', () => {
  test('one writes at a time, in the order of asking; who waits for it to be free comes last', async () => {
    const gate = new WriteGate();
    const [first, second] = [later(), later()];
    const seen: string[] = [];
    const a = gate.hold(() => first.promise.then(() => void seen.push('first')));
    const b = gate.hold(() => second.promise.then(() => void seen.push('second')));
    const free = gate.free().then(() => seen.push('free'));
    second.done();
    first.done();
    await Promise.all([a, b, free]);
    expect(seen).toEqual(['first', 'second', 'free']);
  });
  test('a writer that fails lets the next one in, and its failure is its own', async () => {
    const gate = new WriteGate();
    await expect(gate.hold(() => Promise.reject(new Error('lost')))).rejects.toThrow('lost');
    expect(await gate.hold(() => Promise.resolve('kept'))).toBe('kept');
    await gate.free();
  });
});

describe('the latest answers', () => {
  test('are worked out once, failures not kept, old ones let go', async () => {
    const latest = new Latest<number>();
    let asked = 0;
    const ask = (question: string) => latest.get(question, () => Promise.resolve(++asked));
    expect([await ask('a'), await ask('a'), await ask('b')]).toEqual([1, 1, 2]);
    for (let i = 0; i < 20; i++) await ask(`more ${i}`);
    expect(await ask('a')).toBe(23);
    await expect(latest.get('bad', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(await latest.get('bad', () => Promise.resolve(7))).toBe(7);
  });
});
