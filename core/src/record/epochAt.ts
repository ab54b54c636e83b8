/** How many of some instants, in order and each once, are past at an instant. */
export function epochAt(times: readonly number[], at: number): number {
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((times[middle] ?? 0) > at) high = middle;
    else low = middle + 1;
  }
  return low;
}
