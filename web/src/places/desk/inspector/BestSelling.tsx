import { Button } from '@mantine/core';
import { STEPS, type Rule } from '@carafe/core/recommend';
import type { StoredRule } from '@carafe/contract';
import { rulesApi } from '../../../app/rulesApi';
import { useAppSelector } from '../../../app/store';
import { notifyFailure, notifyOf } from '../../../parts/notify';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const NAME = 'best_selling';

/** A rule that asks for nothing but what sells best. */
const isOfSales = ({ rule: { steps, pool } }: StoredRule): boolean =>
  pool === undefined && steps.every(({ step }) => step.kind === 'best_sellers');

/** What sells best of a shop, the same for everybody but for what they have in the cart. */
function ruleOfSales(rules: readonly StoredRule[]): Rule {
  const taken = new Set(rules.map(({ rule }) => rule.name));
  let name = NAME;
  for (let n = 2; taken.has(name); n++) name = `${NAME}_${n}`;
  return {
    ...{ name, label: t('bestSelling'), number: 12 },
    steps: [{ take: 12, step: STEPS.best_sellers.make() }],
    exclude: { out_of_stock: true, in_cart: false },
  };
}

/** Makes a list that of what sells best: by the rule that says so, which is made where the shop has none. */
export function BestSelling({ onList }: { onList: (list: string) => void }) {
  const shop = useAppSelector(({ desk }) => desk.template?.shop ?? '');
  const { data } = rulesApi.useRulesQuery(shop);
  const [addRule, { isLoading }] = rulesApi.useAddRuleMutation();
  const choose = async () => {
    const rules = data?.rules ?? [];
    const own = rules.find(isOfSales);
    if (own) {
      onList(`picks.${own.rule.name}`);
      return;
    }
    const rule = ruleOfSales(rules);
    const { error } = await addRule({ shop, rule });
    if (error) {
      notifyFailure(error);
      return;
    }
    onList(`picks.${rule.name}`);
    notifyOf(t('aRuleWasMadeBestSelling'), t('changeWhatItCountsAndFor'));
  };
  return (
    <Button
      variant="subtle"
      justify="flex-start"
      size="compact-xs"
      disabled={!data || isLoading}
      onClick={() => void choose()}
    >
      {t('bestSelling')}
    </Button>
  );
}
