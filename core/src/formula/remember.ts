/** Keeps what `make` gives for a key; forgets all when it holds more than `limit`. */
export function remember<K, V>(limit: number, make: (key: K) => V): (key: K) => V {
  const kept = new Map<K, V>();
  return (key) => {
    let value = kept.get(key);
    if (value === undefined) {
      if (kept.size >= limit) kept.clear();
      value = make(key);
      kept.set(key, value);
    }
    return value;
  };
}
