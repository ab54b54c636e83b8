const MAX_KEPT = 8;

/** The latest answers by their question, so that the same one is worked out only once. */
export class LruCache<T> {
  private readonly answers = new Map<string, Promise<T>>();

  get(question: string, make: () => Promise<T>): Promise<T> {
    const known = this.answers.get(question);
    if (known) {
      this.answers.delete(question);
      this.answers.set(question, known);
      return known;
    }
    const made = make();
    this.answers.set(question, made);
    made.catch(() => this.answers.delete(question));
    for (const [old] of this.answers) {
      if (this.answers.size <= MAX_KEPT) break;
      this.answers.delete(old);
    }
    return made;
  }
}
