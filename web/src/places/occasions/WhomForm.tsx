import { NumberInput, Select, Switch } from '@mantine/core';
import { sayWhom, type Occasion } from '@carafe/core/occasion';
import type { Shape } from '@carafe/core/shape';
import { AudienceBar } from '../../parts/sentence/AudienceBar';
import { ConditionField } from '../../parts/sentence/ConditionField';
import { AddressList } from './AddressList';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

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
        placeholder={t('everybody')}
        data={[...segments]}
        value={whom[name] ?? null}
        onChange={(to) => put({ [name]: to ?? undefined })}
      />
    </>
  );
  return (
    <details className={classes.whom}>
      <summary>{sayWhom(occasion) ?? t('forEverybody')}</summary>
      <div className={classes.line}>
        {segment('segment', 'In')}
        {segment('without', 'not in')}
      </div>
      <ConditionField
        label={t('andOnlyIf')}
        placeholder={t('cartCount2')}
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
          label={t('includeGuests')}
          checked={whom.guests}
          onChange={({ currentTarget }) => put({ guests: currentTarget.checked })}
        />
        <span>{t('notTheSamePersonAgainWithin')}</span>
        <NumberInput
          aria-label={t('notTheSamePersonAgainWithin')}
          size="xs"
          w={70}
          min={0}
          max={3650}
          value={whom.rest_days ?? 0}
          onChange={(days) => typeof days === 'number' && put({ rest_days: days })}
        />
        <span>{t('daysPriority')}</span>
        <NumberInput
          aria-label={t('priority')}
          size="xs"
          w={60}
          min={0}
          max={10}
          value={occasion.priority}
          onChange={(to) => typeof to === 'number' && onChange({ ...occasion, priority: to })}
        />
      </div>
      <div className={classes.line}>
        <span>{t('whenSomebodyHasReceivedTheMost')}</span>
        <Select
          aria-label={t('whenSomebodyHasReceivedTheMost2')}
          size="xs"
          w={210}
          allowDeselect={false}
          data={[
            { value: 'postpone', label: t('sendTheEmailLater') },
            { value: 'drop', label: t('doNotSendTheEmail') },
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
