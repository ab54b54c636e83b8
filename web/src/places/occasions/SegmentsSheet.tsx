import { useMemo, useState, type FormEvent } from 'react';
import { Button, TextInput } from '@mantine/core';
import type { SegmentCounted } from '@carafe/contract';
import { sayFormula } from '@carafe/core/occasion';
import { withPast } from '@carafe/core/record';
import { ANY } from '@carafe/core/shape';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { FormFoot } from '../../parts/FormFoot';
import { notifyFailure } from '../../parts/notify';
import { AudienceBar } from '../../parts/sentence/AudienceBar';
import { ConditionField } from '../../parts/sentence/ConditionField';
import { SideSheet } from '../../parts/SideSheet';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

/** Named conditions over people. */
export function SegmentsSheet({ shop, onClose }: { shop: string; onClose: () => void }) {
  const { data } = occasionsApi.useSegmentsQuery(shop);
  const [remove] = occasionsApi.useDeleteSegmentMutation();
  const [opened, setOpened] = useState<SegmentCounted | 'new' | null>(null);
  const segments = data?.segments ?? [];
  return (
    <SideSheet title={t('segments')} width={560} isForm onClose={onClose}>
      <p className="quiet">{t('aSegmentIsANamedCondition')}</p>
      {segments.map((segment) => (
        <div key={segment.name} className={classes.segment}>
          <div>
            <strong>{segment.name}</strong>
            <div className="quiet">{sayFormula(segment.formula)}</div>
          </div>
          <AudienceBar shop={shop} formula={segment.formula} />
          <Button size="compact-xs" variant="default" onClick={() => setOpened(segment)}>
            {t('change')}
          </Button>
          <Button
            size="compact-xs"
            variant="subtle"
            color="clay"
            onClick={() =>
              void remove({ shop, name: segment.name }).then(
                ({ error }) => error && notifyFailure(error),
              )
            }
          >
            {t('delete')}
          </Button>
        </div>
      ))}
      {opened ? (
        <SegmentForm
          key={opened === 'new' ? '' : opened.name}
          shop={shop}
          first={opened === 'new' ? null : opened}
          onDone={() => setOpened(null)}
        />
      ) : (
        <Button variant="default" mt={12} onClick={() => setOpened('new')}>
          {t('addASegment')}
        </Button>
      )}
    </SideSheet>
  );
}

function SegmentForm({
  shop,
  first,
  onDone,
}: {
  shop: string;
  first: SegmentCounted | null;
  onDone: () => void;
}) {
  const { data: known = ANY } = api.useShapeQuery(shop);
  const shape = useMemo(() => withPast(known), [known]);
  const [name, setName] = useState(first?.name ?? '');
  const [formula, setFormula] = useState(first?.formula ?? '');
  const [problem, setProblem] = useState<string | null>(null);
  const [add, adding] = occasionsApi.useAddSegmentMutation();
  const [change, changing] = occasionsApi.useChangeSegmentMutation();
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const segment = { name, formula };
    const { error } = first
      ? await change({ shop, name: first.name, version: first.version, segment })
      : await add({ shop, segment });
    if (error) setProblem(messageOf(error));
    else onDone();
  };
  return (
    <form noValidate className={classes.segmentForm} onSubmit={(event) => void submit(event)}>
      <TextInput
        label={t('name')}
        value={name}
        onChange={({ currentTarget }) => setName(currentTarget.value)}
      />
      <ConditionField
        label={t('peopleAreInItWhen')}
        placeholder={t('personOrdersCount3')}
        value={formula}
        shape={shape}
        frames={[]}
        now={null}
        onChange={setFormula}
      />
      <AudienceBar shop={shop} formula={formula} />
      <FormFoot
        problem={problem}
        submit={first ? t('save') : t('add')}
        busy={adding.isLoading || changing.isLoading}
        onCancel={onDone}
      />
    </form>
  );
}
