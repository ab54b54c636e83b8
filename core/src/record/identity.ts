/** A moment at which a shop's visitor was known by an address. */
export interface Known {
  visitor: string;
  email: string;
  /** UTC, ISO 8601. */
  at: string;
}

/**
 * Whose an event without an address is: the address that its visitor is next known by, else the last
 * one before. So a guest's cart comes along when the address is given, and does not depend on the
 * order in which events arrive. Undefined as long as the visitor was never known.
 */
export function ownerOf(at: string, known: readonly Known[]): string | undefined {
  let next: Known | undefined;
  let last: Known | undefined;
  for (const one of known) {
    if (one.at >= at) {
      if (!next || one.at < next.at || (one.at === next.at && one.email < next.email)) next = one;
    } else if (!last || one.at > last.at || (one.at === last.at && one.email < last.email))
      last = one;
  }
  return (next ?? last)?.email;
}
