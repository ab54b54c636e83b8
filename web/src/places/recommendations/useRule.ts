import { useEffect, useRef, useState } from 'react';
import type { StoredRule } from '@carafe/contract';
import type { Rule } from '@carafe/core/recommend';
import { faultsOf } from '../../app/ask';
import { rulesApi } from '../../app/rulesApi';
import { notifyFailure } from '../../parts/notify';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

export interface RuleEdit {
  rule: Rule;
  /** What the last change was refused for; the rule is as it was before. */
  problem: string | null;
  /** Keeps the rule as it is to be; says whether it was kept. */
  put: (rule: Rule) => Promise<boolean>;
  undo: (() => void) | null;
  /** Lets emails use the rule as it is on the screen. */
  publish: () => Promise<void>;
}

/** A rule that is kept with each change, one after the other, and can be gone back from. */
export function useRule({ id, version: read, rule: stored }: StoredRule): RuleEdit {
  const [changeRule] = rulesApi.useChangeRuleMutation();
  const [publishRule] = rulesApi.usePublishRuleMutation();
  /** As it is on the screen: ahead of what is stored while a change is on its way. */
  const [rule, setRule] = useState(stored);
  const [past, setPast] = useState<readonly Rule[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const waiting = useRef(0);
  /** What the next change is made to: as it was read, or as the last change left it. */
  const version = useRef(read);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  useEffect(() => {
    if (waiting.current > 0) return;
    setRule(stored);
    version.current = read;
  }, [stored, read]);
  const keep = async (to: Rule, before: Rule): Promise<boolean> => {
    setRule(to);
    waiting.current++;
    const kept = last.current.then(() => changeRule({ id, version: version.current, rule: to }));
    last.current = kept;
    const { data, error } = await kept;
    if (data) version.current = data.version;
    waiting.current--;
    setProblem(error ? faultsOf(error) : null);
    if (error) setRule(before);
    return !error;
  };
  const put = async (to: Rule) => {
    const kept = await keep(to, rule);
    if (kept) setPast((before) => [...before, rule]);
    return kept;
  };
  const earlier = past.at(-1);
  const undo = earlier
    ? () =>
        void keep(earlier, rule).then((kept) => kept && setPast((before) => before.slice(0, -1)))
    : null;
  const publish = async () => {
    // What is on its way is kept first.
    await last.current;
    const { error } = await publishRule({ id, version: version.current });
    if (error) notifyFailure(error, t('nothingWasPublished'));
  };
  return { rule, problem, put, undo, publish };
}
