/**
 * Whether the database itself cannot go on, as with a full disk: that is no fault of the one email or person at hand. A
 * constraint that is broken is one.
 */
export function isDatabaseError(error: unknown): boolean {
  const { code = '' } = error as { code?: string };
  return code.startsWith('SQLITE_') && !code.startsWith('SQLITE_CONSTRAINT');
}
