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
    const name = `Like ${shown.name || shown.email || 'this recipient'}`.slice(0, 120);
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
    <SideSheet title="Test recipients" width={520} onClose={onClose}>
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
          <p className="quiet">
            Invented recipients: they are counted nowhere, and nothing is sent to them except your
            own tests.
          </p>
          <Group gap={8}>
            <Button
              variant="default"
              disabled={!shown}
              loading={adding.isLoading}
              onClick={() => void copy()}
            >
              Copy {shown?.name || 'the recipient shown'} to change
            </Button>
            <Button
              variant="default"
              loading={adding.isLoading}
              onClick={() => void begin({ name: 'A new one' })}
            >
              Create one
            </Button>
          </Group>
          <ul className={classes.made} aria-label="Test recipients">
            {all.map(({ id, name, data: { shopper } }) => (
              <li key={id}>
                <UnstyledButton onClick={() => setOpen(id)}>{name}</UnstyledButton>
                <span className="quiet">
                  {counted(shopper.cart?.lines.length ?? 0, 'line')} in the cart,{' '}
                  {counted(shopper.orders.length, 'order')}
                </span>
                <Button size="compact-xs" variant="subtle" onClick={() => void look(id)}>
                  Show
                </Button>
              </li>
            ))}
          </ul>
          {data && all.length === 0 && <p>None yet.</p>}
        </>
      )}
    </SideSheet>
  );
}
