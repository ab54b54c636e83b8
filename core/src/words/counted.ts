const figures = new Intl.NumberFormat('en-GB');

/** A count with its thousands. */
export function figure(n: number): string {
  return figures.format(n);
}

/** A count with what is counted: `1 row`, `2,000 rows`. */
export function counted(n: number, one: string, many = `${one}s`): string {
  return `${figure(n)} ${n === 1 ? one : many}`;
}
