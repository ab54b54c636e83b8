import { Button } from '@mantine/core';
import { IconBuildingStore } from '@tabler/icons-react';
import type { Recipient } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Who just did something in the shop: one click away, so that a test cart is seen at once. */
export function Lately() {
  const dispatch = useAppDispatch();
  const lately = useAppSelector((s) => s.desk.lately);
  const shown = useAppSelector((s) => s.desk.recipients[s.desk.index]?.id);
  const having = useAppSelector((s) => s.desk.having);
  if (!lately || lately.id === shown) return null;
  const { name, email, lines, orders } = lately;
  return (
    <span className={classes.lately} role="status">
      <IconBuildingStore size={15} aria-hidden />
      <span>
        {t('justHappenedInTheShop')} <strong>{name || email}</strong>, {doing(lately)}
      </span>
      <Button
        variant="default"
        size="compact-xs"
        onClick={() => {
          const fits = having === 'all' || (having === 'cart' ? lines > 0 : orders > 0);
          dispatch(deskActions.searched({ search: email, ...(!fits && { having: 'all' }) }));
        }}
      >
        {t('show')}
      </Button>
    </span>
  );
}

function doing({ lines, orders }: Recipient): string {
  if (lines > 0) return t('linesInTheCart', { lines: counted(lines, 'line') });
  return orders > 0 ? counted(orders, 'order') : t('lookingRound');
}
