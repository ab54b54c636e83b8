import { useCallback, useState } from 'react';
import type { StoredRule } from '@carafe/contract';
import type { Rule } from '@carafe/core/recommend';
import { rulesApi } from '../../app/rulesApi';
import { messageOf } from '../../app/ask';

export interface RuleEdit {
  rule: Rule;
  /** What the last change was refused for; the rule is as it was before. */
  problem: string | null;
  put: (rule: Rule) => Promise<boolean>;
  undo: (() => void) | null;
}

/** A rule that is kept with each change, and can be gone back from. */
export function useRule({ id, rule }: StoredRule): RuleEdit {
  const [changeRule] = rulesApi.useChangeRuleMutation();
  const [past, setPast] = useState<readonly Rule[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = useCallback(
    async (to: Rule): Promise<boolean> => {
      const { error } = await changeRule({ id, rule: to });
      setProblem(error ? messageOf(error) : null);
      return !error;
    },
    [changeRule, id],
  );
  const put = async (to: Rule) => {
    const kept = await keep(to);
    if (kept) setPast((before) => [...before, rule]);
    return kept;
  };
  const last = past.at(-1);
  const undo = last
    ? () => void keep(last).then((kept) => kept && setPast((before) => before.slice(0, -1)))
    : null;
  return { rule, problem, put, undo };
}
