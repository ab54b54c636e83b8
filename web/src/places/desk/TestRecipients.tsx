import { useState } from 'react';
import { Button, Group, UnstyledButton } from '@mantine/core';
import { ENDPOINTS } from '@carafe/contract';
import { ask, messageOf } from '../../app/ask';
import { testRecipientsApi } from '../../app/testRecipientsApi';
import { useAppDispatch, useDeskState } from '../../app/store';
import { counted } from '@carafe/core/words';
import { notifyFailure } from '../../parts/notify';
import { SideSheet } from '../../parts/SideSheet';
import { deskActions } from './deskSlice';
import { TestRecipientForm } from './TestRecipientForm';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Recipients made up to look at the mail with: copied from real ones, made for a branch, or written by hand. */
export function TestRecipients({ onClose }: { onClose: () => void }) {
  const { template, recipients, index } = useDeskState('template', 'recipients', 'index');
  const shop = template?.shop ?? '';
  const { data, error } = testRecipientsApi.useTestRecipientsQuery(shop);
  const [add, adding] = testRecipientsApi.useAddTestRecipientMutation();
  const [open, setOpen] = useState<number | null>(null);
  const dispatch = useAppDispatch();
  const shown = recipients[index];
  const all = data?.recipients ?? [];
  const begin = async (one: { name: string } | { name: string; like: number }) => {
    const { data: made, error: refused } = await add({ shop, ...one });
    if (made) setOpen(made.id);
    else notifyFailure(refused);
  };
  const copy = async () => {
    if (!shown) return;
    const name = `Like ${shown.name || shown.email || t('thisRecipient')}`.slice(0, 120);
    await begin({ name, like: shown.id });
  };
  const look = (id: number) =>
    ask(ENDPOINTS.someRecipients, { params: { shop }, query: { ids: String(id) } })
      .then(({ recipients: [found] }) => {
        if (found) dispatch(deskActions.lookedAt(found));
        onClose();
      })
      .catch(notifyFailure);
  const opened = all.find(({ id }) => id === open);
  return (
    <SideSheet title={t('testRecipients')} width={520} onClose={onClose}>
      {error && <p role="alert">{messageOf(error)}</p>}
      {opened ? (
        <TestRecipientForm
          key={opened.id}
          shop={shop}
          recipient={opened}
          onDone={() => setOpen(null)}
        />
      ) : (
        <>
          <p className="quiet">{t('inventedRecipientsTheyAreCountedNowhere')}</p>
          <Group gap={8}>
            <Button
              variant="default"
              disabled={!shown}
              loading={adding.isLoading}
              onClick={() => void copy()}
            >
              {t('copy')} {shown?.name || t('theRecipientShown')} {t('toChange')}
            </Button>
            <Button
              variant="default"
              loading={adding.isLoading}
              onClick={() => void begin({ name: 'A new one' })}
            >
              {t('createOne')}
            </Button>
          </Group>
          <ul className={classes.made} aria-label={t('testRecipients')}>
            {all.map(({ id, name, data: { shopper } }) => (
              <li key={id}>
                <UnstyledButton onClick={() => setOpen(id)}>{name}</UnstyledButton>
                <span className="quiet">
                  {t('linesInTheCartOrders', {
                    lines: counted(shopper.cart?.lines.length ?? 0, 'line'),
                    orders: counted(shopper.orders.length, 'order'),
                  })}
                </span>
                <Button size="compact-xs" variant="subtle" onClick={() => void look(id)}>
                  {t('show')}
                </Button>
              </li>
            ))}
          </ul>
          {data && all.length === 0 && <p>{t('noneYet')}</p>}
        </>
      )}
    </SideSheet>
  );
}
