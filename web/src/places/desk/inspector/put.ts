/** Puts a value at a path of the owner, and others with it; undefined takes it away. */
export type Put = (
  path: string,
  value: unknown,
  label: string,
  also?: Readonly<Record<string, unknown>>,
) => void;
