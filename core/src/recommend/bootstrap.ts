import { seeded } from './random';

/** A mean with the interval in which it lies with 95 % confidence. */
export interface Measure {
  mean: number;
  low: number;
  high: number;
}

const SAMPLES = 1_000;

/**
 * The mean of some values, with an interval by the bootstrap (Efron 1979): the mean is reckoned of a thousand
 * samples drawn from the values, and 2.5 % of them are cut off at each end.
 */
export function bootstrap(values: readonly number[], seed = 7): Measure {
  const count = values.length;
  if (count === 0) return { mean: 0, low: 0, high: 0 };
  const random = seeded(seed);
  const meanOf = (valueAt: (i: number) => number) => {
    let sum = 0;
    for (let i = 0; i < count; i++) sum += valueAt(i);
    return sum / count;
  };
  const means = Array.from({ length: SAMPLES }, () =>
    meanOf(() => values[Math.floor(random() * count)] ?? 0),
  ).sort((a, b) => a - b);
  return {
    mean: meanOf((i) => values[i] ?? 0),
    low: means[Math.floor(SAMPLES * 0.025)] ?? 0,
    high: means[Math.ceil(SAMPLES * 0.975) - 1] ?? 0,
  };
}
