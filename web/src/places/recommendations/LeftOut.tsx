import { NumberInput, Select, Switch } from '@mantine/core';
import type { ScopeFrame } from '@carafe/core/formula';
import { leavesOutLatest, type Rule } from '@carafe/core/recommend';
import type { Shape } from '@carafe/core/shape';
import { ConditionField } from '../../parts/sentence/ConditionField';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

interface Props {
  rule: Rule;
  shape: Shape;
  frames: readonly ScopeFrame[];
  onChange: (rule: Rule) => void;
}

type Exclude = Rule['exclude'];
const BOUGHT = [
  { value: 'no', label: t('canBeShownAgain') },
  { value: 'ever', label: t('isNeverShownAgain') },
  { value: 'days', label: t('isLeftOutForSomeDays') },
];
const SPREADS = [
  { value: 'none', label: t('noLimit') },
  { value: 'category', label: t('ofOneCategory') },
  { value: 'brand', label: t('ofOneBrand') },
  { value: 'price', label: t('ofASimilarPrice') },
];
const ORDERS = [
  { value: 'chosen', label: t('inTheOrderOfTheSteps') },
  { value: 'price_up', label: t('cheapestFirst') },
  { value: 'price_down', label: t('mostExpensiveFirst') },
  { value: 'newest', label: t('newestFirst') },
  { value: 'name', label: t('byName') },
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
        <div className="label">{t('leftOut')}</div>
        <Switch
          size="xs"
          label={t('outOfStock')}
          checked={flags.out_of_stock}
          onChange={({ currentTarget }) => exclude({ out_of_stock: currentTarget.checked })}
        />
        <Switch
          size="xs"
          label={t('inTheCart')}
          checked={flags.in_cart}
          onChange={({ currentTarget }) => exclude({ in_cart: currentTarget.checked })}
        />
        <Switch
          size="xs"
          label={t('inTheLatestOrderHoweverLong')}
          checked={leavesOutLatest(rule.exclude)}
          onChange={({ currentTarget }) => exclude({ latest_order: currentTarget.checked })}
        />
        <div className={classes.details}>
          <span>{t('boughtBefore')}</span>
          <Select
            aria-label={t('boughtBefore')}
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
              aria-label={t('forHowManyDays')}
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
          <span>{t('seenInTheirLast')}</span>
          <NumberInput
            aria-label={t('seenInTheirLastEmails')}
            size="xs"
            w={72}
            min={0}
            max={20}
            placeholder={t('no')}
            value={flags.shown_mails ?? ''}
            onChange={(to) =>
              typeof to === 'number' && to > 0
                ? exclude({ shown_mails: Math.min(20, Math.round(to)) })
                : exclude({}, 'shown_mails')
            }
          />
          <span>{t('emails')}</span>
        </div>
        <ConditionField
          label={t('alsoLeaveOutProductsWhere')}
          placeholder={t('nothingElse')}
          value={where ?? ''}
          shape={shape}
          frames={frames}
          now={null}
          onChange={(to) => (to.trim() === '' ? exclude({}, 'where') : exclude({ where: to }))}
        />
      </div>
      <div className={classes.part}>
        <div className="label">{t('finally')}</div>
        <div className={classes.details}>
          {spread && (
            <>
              <span>{t('atMost')}</span>
              <NumberInput
                aria-label={t('atMost2')}
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
            aria-label={t('spread')}
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
          <span>{t('sort')}</span>
          <Select
            aria-label={t('orderOfThePicks')}
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
