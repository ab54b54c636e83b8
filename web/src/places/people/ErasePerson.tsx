import { useState } from 'react';
import { Button, Group } from '@mantine/core';
import { peopleApi } from '../../app/peopleApi';
import { Dialog } from '../../parts/Dialog';
import { notifyFailure } from '../../parts/notify';

interface Props {
  shop: string;
  email: string;
  onClose: () => void;
}

/** Erases a person, after asking, and says what was deleted and what is kept. */
export function ErasePerson({ shop, email, onClose }: Props) {
  const [isAsking, setAsking] = useState(false);
  const [erase, { data: erased, isLoading }] = peopleApi.useErasePersonMutation();
  const run = async () => {
    const { error } = await erase({ shop, email });
    if (error) notifyFailure(error);
  };
  return (
    <>
      <Button variant="subtle" color="clay" size="compact-sm" onClick={() => setAsking(true)}>
        Erase this person
      </Button>
      <Dialog
        opened={isAsking}
        onClose={erased ? onClose : () => setAsking(false)}
        title={erased ? `${email} is erased` : `Erase ${email}?`}
        size={520}
      >
        {erased ? (
          <>
            <p>Deleted:</p>
            <ul>
              {erased.deleted.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
            <p>Kept:</p>
            <ul>
              {erased.kept.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
            <Group justify="flex-end" mt={16}>
              <Button onClick={onClose}>Close</Button>
            </Group>
          </>
        ) : (
          <>
            <p>
              Their fields, events, carts and orders are deleted, with the contents of their emails.
              Emails that are waiting for them are not sent. This cannot be undone.
            </p>
            <Group justify="flex-end" mt={16}>
              <Button variant="default" data-autofocus onClick={() => setAsking(false)}>
                Cancel
              </Button>
              <Button color="clay" loading={isLoading} onClick={() => void run()}>
                Erase
              </Button>
            </Group>
          </>
        )}
      </Dialog>
    </>
  );
}
