import { NumberInput, Select, SimpleGrid } from '@mantine/core';
import type { RecipientFilter } from '@carafe/contract';
import { api } from '../../app/api';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

type Choice = { value: string; label: string };
const CHOICES: { of: 'name' | 'orders' | 'consent'; label: string; data: Choice[] }[] = [
  { of: 'name', label: t('name'), data: [{ value: 'none', label: t('noName') }] },
  {
    of: 'orders',
    label: t('orders'),
    data: [
      { value: 'some', label: t('orderedBefore') },
      { value: 'none', label: t('neverOrdered') },
    ],
  },
  {
    of: 'consent',
    label: t('consent2'),
    data: [
      { value: 'yes', label: t('withConsent') },
      { value: 'no', label: t('withoutConsent') },
    ],
  },
];

/** Narrows the list of recipients by what is known of them; it holds until it is taken away. */
export function WhoFilter() {
  const dispatch = useAppDispatch();
  const filter = useAppSelector((s) => s.desk.filter);
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const { data } = api.useRecipientFacetsQuery(shop ?? '', { skip: !shop });
  const put = (change: { [K in keyof RecipientFilter]?: RecipientFilter[K] | undefined }) => {
    const next = Object.entries({ ...filter, ...change }).filter(([, v]) => v !== undefined);
    dispatch(deskActions.searched({ filter: Object.fromEntries(next) as RecipientFilter }));
  };
  const facets = (found: { value: string; people: number }[] = []) =>
    found.map(({ value, people }) => ({
      value,
      label: `${value} (${people.toLocaleString('en-GB')})`,
    }));
  const any = { placeholder: t('any'), clearable: true, comboboxProps: { withinPortal: false } };
  return (
    <SimpleGrid cols={3} spacing={8} verticalSpacing={6} mt={8}>
      <Select
        {...any}
        label={t('language2')}
        searchable
        data={facets(data?.languages)}
        value={filter.language ?? null}
        onChange={(language) => put({ language: language ?? undefined })}
      />
      <Select
        {...any}
        label={t('country')}
        searchable
        data={facets(data?.countries)}
        value={filter.country ?? null}
        onChange={(country) => put({ country: country ?? undefined })}
      />
      <NumberInput
        label={t('linesInCart')}
        placeholder={t('anyNumber')}
        prefix={t('atLeast')}
        min={1}
        max={1000}
        value={filter.lines ?? ''}
        onChange={(lines) => put({ lines: typeof lines === 'number' ? lines : undefined })}
      />
      {CHOICES.map(({ of, label, data: choices }) => (
        <Select
          key={of}
          {...any}
          label={label}
          data={choices}
          value={filter[of] ?? null}
          onChange={(value) => put({ [of]: value ?? undefined })}
        />
      ))}
    </SimpleGrid>
  );
}
