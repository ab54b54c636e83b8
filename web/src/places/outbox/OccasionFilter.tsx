import { Select } from '@mantine/core';
import { skipToken } from '@reduxjs/toolkit/query';
import { sayStep, sendsOf } from '@carafe/core/occasion';
import { api } from '../../app/api';
import { occasionsApi } from '../../app/occasionsApi';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

interface Props {
  shop: string | undefined;
  occasion: string | undefined;
  step: string | undefined;
  onChange: (to: { occasion: string | undefined; step: string | undefined }) => void;
}

/** Of which occasion, and of which of its emails. */
export function OccasionFilter({ shop, occasion, step, onChange }: Props) {
  const { data } = occasionsApi.useOccasionsQuery(shop ?? skipToken);
  const { data: listed } = api.useTemplatesQuery();
  const occasions = data?.occasions ?? [];
  const open = occasions.find(({ id }) => id === occasion);
  const names = {
    template: (id: string) =>
      listed?.templates.find((one) => one.id === id)?.name ?? t('aDeletedTemplate'),
  };
  const steps = open ? sendsOf(open.occasion) : [];
  // What is asked for is shown, also where the occasion or the step is not there any more.
  const known = [
    ...occasions.map(({ id, occasion: { name } }) => ({ value: id, label: name })),
    ...(occasion !== undefined && !open
      ? [{ value: occasion, label: t('anOccasionThatWasDeleted') }]
      : []),
  ];
  const sends = [
    ...steps.map((one, i) => ({
      value: one.id,
      label: `${i + 1}. ${sayStep({ ...one, mode: 'on' }, names)}`,
    })),
    ...(step !== undefined && !steps.some(({ id }) => id === step)
      ? [{ value: step, label: t('aStepThatWasDeleted') }]
      : []),
  ];
  return (
    <>
      <Select
        aria-label={t('occasion')}
        placeholder={t('allOccasions')}
        size="xs"
        w={190}
        clearable
        data={known}
        value={occasion ?? null}
        onChange={(to) => onChange({ occasion: to ?? undefined, step: undefined })}
      />
      {occasion !== undefined && sends.length > 1 && (
        <Select
          aria-label={t('step')}
          placeholder={t('allSteps')}
          size="xs"
          w={260}
          clearable
          data={sends}
          value={step ?? null}
          onChange={(to) => onChange({ occasion, step: to ?? undefined })}
        />
      )}
    </>
  );
}
