import { NumberInput, Select, Switch } from '@mantine/core';
import type { ScopeFrame } from '@carafe/core/formula';
import { leavesOutLatest, type Rule } from '@carafe/core/recommend';
import type { Shape } from '@carafe/core/shape';
import { ConditionField } from '../../parts/sentence/ConditionField';
import classes from './Recommendations.module.css';

interface Props {
  rule: Rule;
  shape: Shape;
  frames: readonly ScopeFrame[];
  onChange: (rule: Rule) => void;
}

type Exclude = Rule['exclude'];
const BOUGHT = [
  { value: 'no', label: 'can be shown again' },
  { value: 'ever', label: 'is never shown again' },
  { value: 'days', label: 'is left out for some days' },
];
const SPREADS = [
  { value: 'none', label: 'no limit' },
  { value: 'category', label: 'of one category' },
  { value: 'brand', label: 'of one brand' },
  { value: 'price', label: 'of a similar price' },
];
const ORDERS = [
  { value: 'chosen', label: 'in the order of the steps' },
  { value: 'price_up', label: 'cheapest first' },
  { value: 'price_down', label: 'most expensive first' },
  { value: 'newest', label: 'newest first' },
  { value: 'name', label: 'by name' },
];
const SOME_DAYS = 60;

/** What falls through the sieve, how the rest is spread, and how it stands in the end. */
export function LeftOut({ rule, shape, frames, onChange }: Props) {
  const { bought_days: days, where, ...flags } = rule.exclude;
  const exclude = (change: Partial<Exclude>, without?: keyof Exclude) => {
    const next = { ...rule.exclude, ...change };
    if (without) delete next[without];
    onChange({ ...rule, exclude: next });
  };
  const spread = rule.spread;
  return (
    <>
      <div className={classes.part}>
        <div className="label">Left out</div>
        <Switch
          size="xs"
          label="Out of stock"
          checked={flags.out_of_stock}
          onChange={({ currentTarget }) => exclude({ out_of_stock: currentTarget.checked })}
        />
        <Switch
          size="xs"
          label="In the cart"
          checked={flags.in_cart}
          onChange={({ currentTarget }) => exclude({ in_cart: currentTarget.checked })}
        />
        <Switch
          size="xs"
          label="In the latest order, however long ago"
          checked={leavesOutLatest(rule.exclude)}
          onChange={({ currentTarget }) => exclude({ latest_order: currentTarget.checked })}
        />
        <div className={classes.details}>
          <span>Bought before</span>
          <Select
            aria-label="Bought before"
            size="xs"
            allowDeselect={false}
            data={BOUGHT}
            value={days === undefined ? 'no' : days === 'ever' ? 'ever' : 'days'}
            onChange={(to) =>
              to === 'no'
                ? exclude({}, 'bought_days')
                : exclude({ bought_days: to === 'ever' ? 'ever' : SOME_DAYS })
            }
          />
          {typeof days === 'number' && (
            <NumberInput
              aria-label="For how many days"
              size="xs"
              w={96}
              min={1}
              max={3650}
              suffix=" days"
              value={days}
              onChange={(to) => typeof to === 'number' && exclude({ bought_days: to })}
            />
          )}
        </div>
        <div className={classes.details}>
          <span>Seen in their last</span>
          <NumberInput
            aria-label="Seen in their last emails"
            size="xs"
            w={72}
            min={0}
            max={20}
            placeholder="no"
            value={flags.shown_mails ?? ''}
            onChange={(to) =>
              typeof to === 'number' && to > 0
                ? exclude({ shown_mails: Math.min(20, Math.round(to)) })
                : exclude({}, 'shown_mails')
            }
          />
          <span>emails</span>
        </div>
        <ConditionField
          label="Also leave out products where"
          placeholder="Nothing else"
          value={where ?? ''}
          shape={shape}
          frames={frames}
          now={null}
          onChange={(to) => (to.trim() === '' ? exclude({}, 'where') : exclude({ where: to }))}
        />
      </div>
      <div className={classes.part}>
        <div className="label">Finally</div>
        <div className={classes.details}>
          {spread && (
            <>
              <span>at most</span>
              <NumberInput
                aria-label="At most"
                size="xs"
                w={60}
                min={1}
                max={50}
                value={spread.most}
                onChange={(to) =>
                  typeof to === 'number' && onChange({ ...rule, spread: { ...spread, most: to } })
                }
              />
            </>
          )}
          <Select
            aria-label="Spread"
            size="xs"
            allowDeselect={false}
            data={SPREADS}
            value={spread?.by ?? 'none'}
            onChange={(by) => {
              const { spread: _, ...rest } = rule;
              const to = { by: by as 'category', most: spread?.most ?? 2 };
              onChange(by === 'none' ? rest : { ...rest, spread: to });
            }}
          />
          <span>sort</span>
          <Select
            aria-label="Order of the picks"
            size="xs"
            allowDeselect={false}
            data={ORDERS}
            value={rule.order ?? 'chosen'}
            onChange={(to) => {
              const { order: _, ...rest } = rule;
              onChange(to === 'chosen' ? rest : { ...rest, order: to as 'name' });
            }}
          />
        </div>
      </div>
    </>
  );
}
