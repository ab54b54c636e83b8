/** A seeded source of chance, so that the demo comes out the same each time. */
export interface Random {
  /** From 0 up to 1. */
  next(): number;
  /** A whole number from `low` to `high`, both included. */
  whole(low: number, high: number): number;
  pick<T>(list: readonly T[]): T;
  chance(p: number): boolean;
}

/** Mulberry32 (Tommy Ettinger, public domain): small and good enough for made-up data. */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const whole = (low: number, high: number) => low + Math.floor(next() * (high - low + 1));
  return {
    next,
    whole,
    pick: <T>(list: readonly T[]): T => {
      if (list.length === 0) throw new Error('Nothing to pick from.');
      return list[whole(0, list.length - 1)] as T;
    },
    chance: (p) => next() < p,
  };
}
