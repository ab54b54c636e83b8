import { useState } from 'react';
import { ActionIcon, NumberInput } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { cartWithLine, cartWithQuantity, lineOfProduct, type Cart } from '@carafe/core/record';
import { api } from '../../app/api';
import { ProductChoice } from '../../parts/ProductChoice';
import { useDesk } from './useDesk';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** The cart of somebody who is made up: its lines, and one more from the catalog. */
export function TestCart({
  shop,
  cart,
  onChange,
}: {
  shop: string;
  cart: Cart | null;
  onChange: (cart: Cart | null) => void;
}) {
  const { asOf } = useDesk();
  const { data } = api.useShopsQuery();
  const [unknown, setUnknown] = useState('');
  const currency = data?.shops.find(({ id }) => id === shop)?.currency ?? 'GBP';
  const add = (sku: string, row?: Record<string, unknown>) => {
    setUnknown(row || sku === '' ? '' : sku);
    if (!row) return;
    const at = new Date(asOf.getTime() - HOURS_AGO * 3_600_000).toISOString();
    onChange(cartWithLine(cart, lineOfProduct(row), { currency, at: cart?.updated_at ?? at }));
  };
  return (
    <fieldset className={classes.cart}>
      <legend className="label">{t('inTheCart')}</legend>
      {cart?.lines.map((line, i) => (
        <div key={i} className={classes.cartLine}>
          <span>{line.name}</span>
          <NumberInput
            size="xs"
            w={64}
            min={0}
            max={999}
            aria-label={t('howManyName', { name: line.name })}
            value={line.quantity}
            onChange={(n) =>
              typeof n === 'number' && n > 0 && onChange(cartWithQuantity(cart, i, n))
            }
          />
          <ActionIcon
            variant="subtle"
            size="sm"
            aria-label={t('removeNameFromTheCart', { name: line.name })}
            onClick={() => onChange(cartWithQuantity(cart, i, 0))}
          >
            <IconX size={13} />
          </ActionIcon>
        </div>
      ))}
      <ProductChoice
        key={cart?.lines.length ?? 0}
        shop={shop}
        label={t('oneMoreProduct')}
        placeholder={t('itsNameOrSKU')}
        value={unknown}
        onChange={add}
      />
    </fieldset>
  );
}

/** A cart that is begun by hand was left so long ago. */
const HOURS_AGO = 3;
