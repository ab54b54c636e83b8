import { useEffect, useState } from 'react';
import { Button, NumberInput, Select, Switch, TextInput } from '@mantine/core';
import { skipToken } from '@reduxjs/toolkit/query';
import type { StoredRule } from '@carafe/contract';
import { STEPS, type Rule } from '@carafe/core/recommend';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { notifyFailure } from '../../parts/notify';
import { useShop } from '../../parts/useShop';
import { PlaceHead } from '../../parts/PlaceHead';
import { PicksPane } from './PicksPane';
import { StepsForm } from './StepsForm';
import classes from './Recommendations.module.css';

const NEW: Omit<Rule, 'name' | 'label'> = {
  number: 4,
  steps: [
    { take: 4, step: STEPS.bought_together.make() },
    { take: 4, step: STEPS.best_sellers.make() },
  ],
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
  spread: { by: 'category', most: 2 },
};
const SPREADS = [
  { value: 'none', label: 'As they come' },
  { value: 'category', label: 'of one category' },
  { value: 'brand', label: 'of one brand' },
];

/** Rules that choose products for each person, and what they choose. */
export function RulesPlace() {
  const { shop, choice } = useShop();
  const { data, error } = api.useRulesQuery(shop ?? skipToken);
  const [addRule] = api.useAddRuleMutation();
  const [openId, setOpenId] = useState<string | null>(null);
  const rules = data?.rules ?? [];
  const open = rules.find(({ id }) => id === openId) ?? rules[0];
  useEffect(() => {
    document.title = 'Recommendations · Carafe';
  }, []);
  const add = async () => {
    if (shop === undefined) return;
    const names = new Set(rules.map(({ rule }) => rule.name));
    let n = rules.length + 1;
    while (names.has(`rule_${n}`)) n++;
    const { data: made, error: refused } = await addRule({
      shop,
      rule: { name: `rule_${n}`, label: `Rule ${n}`, ...NEW },
    });
    if (refused) notifyFailure(refused);
    else if (made) setOpenId(made.id);
  };
  return (
    <main className={classes.place}>
      <PlaceHead
        title="Recommendations"
        beside={choice}
        hint="Each rule is a list for cards and formulas: picks.its_name, chosen for every person."
        add="Add a rule"
        onAdd={() => void add()}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && rules.length === 0 && (
        <p className="quiet">
          There is no rule yet. A rule asks its steps in turn, leaves out what somebody has already,
          and never comes back with an empty space while the last step finds something.
        </p>
      )}
      {open && shop !== undefined && (
        <div className={classes.columns}>
          <nav className={classes.list} aria-label="Rules">
            {rules.map(({ id, rule }) => (
              <button
                key={id}
                type="button"
                aria-current={id === open.id}
                onClick={() => setOpenId(id)}
              >
                {rule.label}
                <span className={classes.name}>picks.{rule.name}</span>
              </button>
            ))}
          </nav>
          <RuleForm key={open.id} stored={open} />
          <PicksPane shop={shop} rule={open.rule} />
        </div>
      )}
    </main>
  );
}

/** A rule: what it is called, its steps in turn, what is left out, how it is spread. Each change is kept at once. */
function RuleForm({ stored: { id, rule } }: { stored: StoredRule }) {
  const [changeRule] = api.useChangeRuleMutation();
  const [deleteRule] = api.useDeleteRuleMutation();
  const [label, setLabel] = useState(rule.label);
  const [name, setName] = useState(rule.name);
  const put = async (change: Partial<Rule>) => {
    const { error } = await changeRule({ id, rule: { ...rule, ...change } });
    if (!error) return;
    notifyFailure(error);
    setLabel(rule.label);
    setName(rule.name);
  };
  const exclude = (change: Partial<Rule['exclude']>) =>
    void put({ exclude: { ...rule.exclude, ...change } });
  const { bought_days: days, ...exclusions } = rule.exclude;
  return (
    <section className={classes.form} aria-label="Rule">
      <TextInput
        label="Name"
        value={label}
        onChange={({ currentTarget: { value } }) => setLabel(value)}
        onBlur={() => label !== rule.label && void put({ label })}
      />
      <TextInput
        label="In formulas"
        description="After picks."
        value={name}
        onChange={({ currentTarget: { value } }) => setName(value)}
        onBlur={() => name !== rule.name && void put({ name })}
      />
      <NumberInput
        label="How many products"
        min={1}
        max={50}
        value={rule.number}
        onChange={(number) => typeof number === 'number' && void put({ number })}
      />
      <StepsForm steps={rule.steps} onChange={(steps) => void put({ steps })} />
      <div className={classes.part}>
        <div className="label">Left out</div>
        <Switch
          label="What is out of stock"
          checked={exclusions.out_of_stock}
          onChange={({ currentTarget }) => exclude({ out_of_stock: currentTarget.checked })}
        />
        <Switch
          label="What lies in the cart"
          checked={exclusions.in_cart}
          onChange={({ currentTarget }) => exclude({ in_cart: currentTarget.checked })}
        />
        <Switch
          label="What was bought before"
          checked={days !== undefined}
          onChange={({ currentTarget: { checked } }) =>
            void put({ exclude: { ...exclusions, ...(checked && { bought_days: 'ever' }) } })
          }
        />
      </div>
      <div className={classes.part}>
        <Select
          label="Spread: at most"
          allowDeselect={false}
          data={SPREADS}
          value={rule.spread?.by ?? 'none'}
          onChange={(by) => {
            const { spread: _, ...rest } = rule;
            const spread = { by: by as 'category', most: rule.spread?.most ?? 2 };
            void changeRule({ id, rule: by === 'none' ? rest : { ...rest, spread } }).then(
              ({ error }) => error && notifyFailure(error),
            );
          }}
        />
        {rule.spread && (
          <NumberInput
            aria-label="At most so many"
            min={1}
            max={50}
            value={rule.spread.most}
            onChange={(most) =>
              typeof most === 'number' &&
              rule.spread &&
              void put({ spread: { ...rule.spread, most } })
            }
          />
        )}
      </div>
      <Button
        variant="subtle"
        color="clay"
        w="fit-content"
        onClick={() => void deleteRule(id).then(({ error }) => error && notifyFailure(error))}
      >
        Delete the rule
      </Button>
    </section>
  );
}
