/** Keeps what was used latest, up to so many. */
export class Latest<T> {
  private readonly all = new Map<string, T>();

  constructor(private readonly most: number) {}

  get(key: string): T | undefined {
    const one = this.all.get(key);
    if (one === undefined) return undefined;
    this.all.delete(key);
    this.all.set(key, one);
    return one;
  }

  set(key: string, one: T): void {
    this.all.delete(key);
    this.all.set(key, one);
    const [oldest] = this.all.keys();
    if (this.all.size > this.most && oldest !== undefined) this.all.delete(oldest);
  }
}
