import { useEffect, useState } from 'react';
import { Select } from '@mantine/core';
import type { Shop } from '@carafe/contract';
import { api } from '../../../app/api';
import { useAppDispatch } from '../../../app/store';
import { tellFailure } from '../../../parts/tell';
import { deskActions } from '../deskSlice';

/** The shop that a template speaks for: its people, its catalogs, its money. */
export function ShopChoice({
  value,
  onChange,
}: {
  value: string;
  onChange: (shop: string) => void;
}) {
  const dispatch = useAppDispatch();
  const [shops, setShops] = useState<Shop[]>([]);
  useEffect(() => {
    let isCurrent = true;
    api
      .shops()
      .then((found) => isCurrent && setShops(found.shops))
      .catch((error: unknown) => tellFailure(error, 'The shops are not known'));
    return () => {
      isCurrent = false;
    };
  }, []);
  return (
    <Select
      label="Speaks for"
      value={value}
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
