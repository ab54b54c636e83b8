const PRIME = 16_777_619;
const START = -2_128_831_035;

/**
 * A number that stands for all that was put into it, one after the other: equal for what is equal, and nearly never
 * equal otherwise (FNV-1a, over the units of texts and the halves of numbers). Hot: told each value of each mail.
 */
export class Digest {
  private hash = START;
  private readonly double = new Float64Array(1);
  private readonly halves = new Int32Array(this.double.buffer);

  /** 32 bits. */
  get value(): number {
    return this.hash;
  }

  /** Before the next mail. */
  clear(): void {
    this.hash = START;
  }

  private mix(bits: number): void {
    this.hash = Math.imul(this.hash ^ bits, PRIME);
  }

  private number(value: number): void {
    this.double[0] = value;
    this.mix(this.halves[0] ?? 0);
    this.mix(this.halves[1] ?? 0);
  }

  /** Any value of a formula. Where one ends and the next begins counts. */
  put(value: unknown): void {
    if (typeof value === 'string') {
      for (let i = 0; i < value.length; i++) this.mix(value.charCodeAt(i));
      this.mix(-value.length - 1);
    } else if (typeof value === 'number') this.number(value);
    else if (value instanceof Date) this.number(value.getTime());
    else if (typeof value === 'object' && value !== null) this.put(JSON.stringify(value));
    // What is missing prints as an empty text does.
    else if (value === undefined || value === null) this.put('');
    else this.mix(value ? 2 : 3);
  }
}
