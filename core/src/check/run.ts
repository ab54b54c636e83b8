import { CHECKS } from './checks';
import type { CheckContext, CheckFinding } from './define';

const RANK = { error: 0, warning: 1, hint: 2 } as const;

/** Everything that the checks say of a template, the worst first; those that are off for it say nothing. */
export function runChecks(context: CheckContext): CheckFinding[] {
  const off = new Set((context.template.checks_off ?? []).map(({ check }) => check));
  return CHECKS.filter(({ name }) => !off.has(name))
    .flatMap(({ name, find }) =>
      find(context).map((found): CheckFinding => ({ check: name, ...found })),
    )
    .sort((a, b) => RANK[a.severity] - RANK[b.severity]);
}
