/** A file that cannot be read as what it is said to be, in a sentence for a person. */
export class FormatError extends Error {
  override name = 'FormatError';
  constructor(
    message: string,
    /** 1-based line, where it is known. */
    readonly line: number | null = null,
  ) {
    super(message);
  }
}
