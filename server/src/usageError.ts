/** A fault of what was given on the command line: told plainly, without a stack. */
export class UsageError extends Error {}
