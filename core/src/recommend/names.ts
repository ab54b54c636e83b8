/** Names as small numbers, in the order in which they first come. */
export class Names {
  private readonly numbers = new Map<string, number>();
  readonly all: string[] = [];

  add(name: string): number {
    const known = this.numbers.get(name);
    if (known !== undefined) return known;
    const number = this.all.push(name) - 1;
    this.numbers.set(name, number);
    return number;
  }

  find(name: string): number | undefined {
    return this.numbers.get(name);
  }
}
