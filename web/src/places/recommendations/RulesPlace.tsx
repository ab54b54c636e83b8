import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import type { StoredRule } from '@carafe/contract';
import { skipToken } from '@reduxjs/toolkit/query';
import { STEPS, type Rule } from '@carafe/core/recommend';
import { rulesApi } from '../../app/rulesApi';
import { messageOf } from '../../app/ask';
import { notifyFailure } from '../../parts/notify';
import { PlaceHead } from '../../parts/PlaceHead';
import { useShop } from '../../parts/useShop';
import { Audience } from './Audience';
import { differs } from './PublishState';
import { PicksPane } from './PicksPane';
import { RuleForm } from './RuleForm';
import { Trial } from './Trial';
import { usePicks } from './usePicks';
import { useRule } from './useRule';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

const NEW: Omit<Rule, 'name' | 'label'> = {
  number: 4,
  steps: [
    { take: 4, step: STEPS.bought_together.make() },
    { take: 4, step: STEPS.best_sellers.make() },
  ],
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
  spread: { by: 'category', most: 2 },
};

/** Rules that choose products for each person, what they choose, and whether they are any good. */
export function RulesPlace() {
  const { shop, choice } = useShop();
  const { data, error, isFetching } = rulesApi.useRulesQuery(shop ?? skipToken);
  const [addRule] = rulesApi.useAddRuleMutation();
  const [params, setParams] = useSearchParams();
  const openId = params.get('open');
  const setOpenId = (id: string) => setParams({ ...(shop !== undefined && { shop }), open: id });
  const rules = data?.rules ?? [];
  // One that was just added is waited for: nothing is written into another meanwhile.
  const found = rules.find(({ id }) => id === openId);
  const open = found ?? (openId !== null && isFetching ? undefined : rules[0]);
  useEffect(() => {
    document.title = t('recommendationsCarafe');
  }, []);
  const add = async () => {
    if (shop === undefined) return;
    const names = new Set(rules.map(({ rule }) => rule.name));
    let n = rules.length + 1;
    while (names.has(`rule_${n}`)) n++;
    const { data: made, error: refused } = await addRule({
      shop,
      rule: { name: `rule_${n}`, label: t('ruleN', { n }), ...NEW },
    });
    if (refused) notifyFailure(refused);
    else if (made) setOpenId(made.id);
  };
  return (
    <main className={classes.place}>
      <PlaceHead
        title={t('recommendations')}
        beside={choice}
        hint={t('eachRuleChoosesProductsForEvery')}
        add={t('addARule')}
        onAdd={() => void add()}
        waits={data === undefined}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && rules.length === 0 && <p className="quiet">{t('noRulesYetARuleTakes')}</p>}
      {rules.length > 0 && shop !== undefined && (
        <div className={classes.columns}>
          <nav className={classes.list} aria-label={t('rules')}>
            {rules.map(({ id, rule, published }) => (
              <button
                key={id}
                type="button"
                aria-current={id === open?.id}
                onClick={() => setOpenId(id)}
              >
                {rule.label}
                <span className={classes.name}>{t('picksName', { name: rule.name })}</span>
                {differs(rule, published) && <span className="quiet">{t('notPublishedYet')}</span>}
              </button>
            ))}
          </nav>
          {open && <OpenRule key={open.id} shop={shop} stored={open} others={rules} />}
        </div>
      )}
    </main>
  );
}

interface OpenProps {
  shop: string;
  stored: StoredRule;
  others: readonly StoredRule[];
}

function OpenRule({ shop, stored, others }: OpenProps) {
  const edit = useRule(stored);
  const picks = usePicks(shop, edit.rule.name);
  return (
    <>
      <RuleForm stored={stored} edit={edit} shop={shop} sieve={picks.data?.sieve} />
      <PicksPane picks={picks} number={edit.rule.number} />
      <div className={classes.below}>
        <Audience stored={stored} onPerson={picks.setWords} />
        <Trial stored={stored} others={others} onWeights={(rule) => void edit.put(rule)} />
      </div>
    </>
  );
}
