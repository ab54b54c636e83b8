import { useState } from 'react';
import { Button, Group, NumberInput, Switch, TextInput } from '@mantine/core';
import { IconArrowBackUp } from '@tabler/icons-react';
import type { StoredRule } from '@carafe/contract';
import type { Sieve } from '@carafe/core/recommend';
import { ANY, fieldNamed, memberShape, type Shape } from '@carafe/core/shape';
import { api } from '../../app/api';
import { rulesApi } from '../../app/rulesApi';
import { notifyFailure } from '../../parts/notify';
import { ConditionField } from '../../parts/sentence/ConditionField';
import { counted, figure } from '@carafe/core/words';
import { CopyRule } from './CopyRule';
import { LeftOut } from './LeftOut';
import { PublishState } from './PublishState';
import { SieveBar } from './SieveBar';
import { StepsForm } from './StepsForm';
import type { RuleEdit } from './useRule';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

/** The shape of a product: of the first catalog that the shop has. */
function productShape(shape: Shape): Shape {
  const catalogs = fieldNamed(shape, 'catalog')?.shape;
  const [first] = catalogs?.kind === 'record' ? Object.values(catalogs.fields) : [];
  return first ? memberShape(first.shape) : ANY;
}

interface Props {
  stored: StoredRule;
  edit: RuleEdit;
  shop: string;
  /** How much gets through for the person shown. */
  sieve: Sieve | undefined;
}

/** A rule as a sieve: what may be picked, the steps in turn, what falls through, how the rest stands. Each change is kept at once. */
export function RuleForm({ stored, edit, shop, sieve }: Props) {
  const { rule, problem, put, undo } = edit;
  const [deleteRule] = rulesApi.useDeleteRuleMutation();
  const { data: shape = ANY } = api.useShapeQuery(shop);
  const [label, setLabel] = useState(rule.label);
  const [name, setName] = useState(rule.name);
  const frames = [{ shape: productShape(shape), as: 'product' }];
  const named = async (change: { label?: string; name?: string }) => {
    if (await put({ ...rule, ...change })) return;
    setLabel(rule.label);
    setName(rule.name);
  };
  const { pool = '' } = rule;
  return (
    <section className={classes.form} aria-label={t('rule')}>
      <div className={classes.names}>
        <TextInput
          label={t('name')}
          size="xs"
          value={label}
          onChange={({ currentTarget: { value } }) => setLabel(value)}
          onBlur={() => label !== rule.label && void named({ label })}
        />
        <TextInput
          label={t('usedInFormulasAs')}
          size="xs"
          leftSection={<span className={classes.name}>{t('picks2')}</span>}
          leftSectionWidth={48}
          value={name}
          onChange={({ currentTarget: { value } }) => setName(value)}
          onBlur={() => name !== rule.name && void named({ name })}
        />
        <NumberInput
          label={t('howManyProducts')}
          size="xs"
          min={1}
          max={50}
          value={rule.number}
          onChange={(number) => typeof number === 'number' && void put({ ...rule, number })}
        />
      </div>
      <PublishState published={stored.published} edit={edit} isUsed={stored.used_by.length > 0} />
      {problem && (
        <p role="alert" className={classes.problem}>
          {t('problemNothingWasChanged', { problem })}
        </p>
      )}
      <div className={classes.part}>
        <ConditionField
          label={t('ofTheseProducts')}
          placeholder={t('everythingInTheCatalog')}
          value={pool}
          shape={shape}
          frames={frames}
          now={null}
          onChange={(to) => {
            const { pool: _, ...rest } = rule;
            void put(to.trim() === '' ? rest : { ...rest, pool: to });
          }}
        />
        {sieve && (
          <SieveBar
            part={sieve.pool}
            of={sieve.products}
            words={t('poolOfProducts', {
              pool: figure(sieve.pool),
              products: counted(sieve.products, 'product'),
            })}
          />
        )}
      </div>
      <div className={classes.part}>
        <Group justify="space-between">
          <div className="label">
            {rule.mixed ? t('allStepsTogetherBestFirst') : t('stepsInTurn')}
          </div>
          <Switch
            size="xs"
            label={t('mixedByWeight')}
            checked={rule.mixed === true}
            onChange={({ currentTarget: { checked } }) => {
              const { mixed: _, ...rest } = rule;
              void put(checked ? { ...rest, mixed: true } : rest);
            }}
          />
        </Group>
        <StepsForm
          steps={rule.steps}
          mixed={rule.mixed === true}
          sieve={sieve}
          onChange={(steps) => void put({ ...rule, steps })}
        />
      </div>
      <LeftOut rule={rule} shape={shape} frames={frames} onChange={(to) => void put(to)} />
      <Group gap={6}>
        <Button
          variant="subtle"
          size="compact-sm"
          leftSection={<IconArrowBackUp size={15} />}
          disabled={!undo}
          onClick={() => undo?.()}
        >
          {t('undo')}
        </Button>
        <Button
          variant="subtle"
          size="compact-sm"
          color="clay"
          onClick={() =>
            void deleteRule(stored.id).then(({ error }) => error && notifyFailure(error))
          }
        >
          {t('deleteTheRule')}
        </Button>
        <CopyRule id={stored.id} shop={shop} />
        {stored.used_by.length > 0 && (
          <span className="quiet">
            {t('shownIn')}{' '}
            {stored.used_by.map(({ id, name: of }, i) => (
              <span key={id}>
                {i > 0 && ', '}
                <a href={`/templates/${id}`}>{of}</a>
              </span>
            ))}
          </span>
        )}
      </Group>
    </section>
  );
}
