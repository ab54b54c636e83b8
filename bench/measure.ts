/** Middle and 95th percentile of measurements, in the unit they came in. */
export function percentiles(values: readonly number[]): { median: number; p95: number } {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number) =>
    sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? Number.NaN;
  return { median: at(0.5), p95: at(0.95) };
}

/**
 * Runs contestants in turns, so that whatever else the machine does meets them all alike. Gives the
 * best time of one call of each in microseconds: the best of many rounds is the least disturbed.
 */
export function race(
  contestants: Record<string, () => number>,
  rounds: number,
  calls: number,
): Record<string, number> {
  const best: Record<string, number> = {};
  for (const [name, call] of Object.entries(contestants)) {
    for (let i = 0; i < 2 * calls; i++) call();
    best[name] = Number.POSITIVE_INFINITY;
  }
  for (let round = 0; round < rounds; round++) {
    for (const [name, call] of Object.entries(contestants)) {
      let kept = 0;
      const start = performance.now();
      for (let i = 0; i < calls; i++) kept += call();
      const each = ((performance.now() - start) * 1000) / calls;
      if (kept > 0 && each < (best[name] ?? 0)) best[name] = each;
    }
  }
  return best;
}
