import { Select } from '@mantine/core';
import { api } from '../../../app/api';
import { useAppDispatch } from '../../../app/store';
import { deskActions } from '../deskSlice';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** The shop of a template: its people, its catalogs, its money. */
export function ShopChoice({
  value,
  onChange,
}: {
  value: string;
  onChange: (shop: string) => void;
}) {
  const dispatch = useAppDispatch();
  const { data, error } = api.useShopsQuery();
  const shops = data?.shops ?? [];
  return (
    <Select
      label={t('shop')}
      value={value}
      error={error && t('theShopsCouldNotBeLoaded')}
      allowDeselect={false}
      data={
        shops.some(({ id }) => id === value)
          ? shops.map(({ id, name }) => ({ value: id, label: name }))
          : [value]
      }
      onChange={(shop) => {
        if (!shop || shop === value) return;
        onChange(shop);
        // Other people: the list starts with the first of them.
        dispatch(deskActions.searched({ search: '' }));
      }}
    />
  );
}
