import { NumberInput, Select, Switch } from '@mantine/core';
import { sayWhom, type Occasion } from '@carafe/core/occasion';
import type { Shape } from '@carafe/core/shape';
import { AudienceBar } from '../../parts/sentence/AudienceBar';
import { ConditionField } from '../../parts/sentence/ConditionField';
import { AddressList } from './AddressList';
import classes from './Occasions.module.css';

interface Props {
  shop: string;
  occasion: Occasion;
  shape: Shape;
  segments: readonly string[];
  onChange: (occasion: Occasion) => void;
}

/** Whom an occasion is for, and how often. */
export function WhomForm({ shop, occasion, shape, segments, onChange }: Props) {
  const { whom } = occasion;
  const put = (change: Partial<Occasion['whom']>) => {
    const next = { ...whom, ...change };
    for (const name of ['segment', 'without', 'where', 'addresses', 'rest_days'] as const)
      if (!next[name] || (Array.isArray(next[name]) && next[name].length === 0)) delete next[name];
    onChange({ ...occasion, whom: next });
  };
  const segment = (name: 'segment' | 'without', words: string) => (
    <>
      <span>{words}</span>
      <Select
        aria-label={words}
        size="xs"
        w={170}
        clearable
        placeholder="everybody"
        data={[...segments]}
        value={whom[name] ?? null}
        onChange={(to) => put({ [name]: to ?? undefined })}
      />
    </>
  );
  return (
    <details className={classes.whom}>
      <summary>{sayWhom(occasion) ?? 'For everybody'}</summary>
      <div className={classes.line}>
        {segment('segment', 'In')}
        {segment('without', 'not in')}
      </div>
      <ConditionField
        label="And only if"
        placeholder="cart.count >= 2"
        value={whom.where ?? ''}
        shape={shape}
        frames={[]}
        now={null}
        onChange={(where) => put({ where })}
      />
      {whom.where && <AudienceBar shop={shop} formula={whom.where} />}
      <div className={classes.line}>
        <Switch
          size="xs"
          label="Include guests"
          checked={whom.guests}
          onChange={({ currentTarget }) => put({ guests: currentTarget.checked })}
        />
        <span>Not the same person again within</span>
        <NumberInput
          aria-label="Not the same person again within"
          size="xs"
          w={70}
          min={0}
          max={3650}
          value={whom.rest_days ?? 0}
          onChange={(days) => typeof days === 'number' && put({ rest_days: days })}
        />
        <span>days. Priority</span>
        <NumberInput
          aria-label="Priority"
          size="xs"
          w={60}
          min={0}
          max={10}
          value={occasion.priority}
          onChange={(to) => typeof to === 'number' && onChange({ ...occasion, priority: to })}
        />
      </div>
      <div className={classes.line}>
        <span>When somebody has received the most marketing emails for a day or a week</span>
        <Select
          aria-label="When somebody has received the most marketing emails"
          size="xs"
          w={210}
          allowDeselect={false}
          data={[
            { value: 'postpone', label: 'send the email later' },
            { value: 'drop', label: 'do not send the email' },
          ]}
          value={occasion.over_limit ?? 'postpone'}
          onChange={(to) =>
            onChange({ ...occasion, over_limit: to === 'drop' ? 'drop' : 'postpone' })
          }
        />
      </div>
      <AddressList addresses={whom.addresses ?? []} onPut={(addresses) => put({ addresses })} />
    </details>
  );
}
