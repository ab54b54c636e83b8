import type { z } from 'zod';

/** What is wrong, with the place: names joined by dots, empty for the whole. */
export interface PlainIssue {
  path: string;
  message: string;
}

type Issue = z.core.$ZodIssue;
type Union = Extract<Issue, { code: 'invalid_union' }>;

/** That a value is of another kind than the one that a branch is for. */
function isOfAnother({ code, path, ...issue }: Issue): boolean {
  if (path.length === 0) return code === 'invalid_type';
  return code === 'invalid_value' && 'values' in issue && issue.values.length === 1;
}

/** What is wrong beside the one kind that a value is of; null where it is of none, or may be of several. */
function within({ errors }: Union): Issue[] | null {
  const own = errors.filter((issues) => issues.length > 0 && !issues.some(isOfAnother));
  return own.length === 1 ? (own[0] ?? null) : null;
}

/**
 * What a validation found, each at its place. Of something that may be of several kinds, what is wrong with the kind
 * that it is of, and not only that it is of none.
 */
export function plainIssues(issues: readonly Issue[]): PlainIssue[] {
  return issues.flatMap((issue): PlainIssue[] => {
    const inside = issue.code === 'invalid_union' ? within(issue) : null;
    const path = issue.path.map(String).join('.');
    if (!inside) return [{ path, message: issue.message }];
    return plainIssues(inside).map((one) => ({
      ...one,
      path: [path, one.path].filter((part) => part !== '').join('.'),
    }));
  });
}
