import { useState } from 'react';
import { Button, Group } from '@mantine/core';
import { peopleApi } from '../../app/peopleApi';
import { Dialog } from '../../parts/Dialog';
import { notifyFailure } from '../../parts/notify';
import { wordsOf } from '../../words';

const t = wordsOf('people');

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
        {t('eraseThisPerson')}
      </Button>
      <Dialog
        opened={isAsking}
        onClose={erased ? onClose : () => setAsking(false)}
        title={erased ? t('emailIsErased', { email }) : t('eraseEmail', { email })}
        size={520}
      >
        {erased ? (
          <>
            <p>{t('deleted')}</p>
            <ul>
              {erased.deleted.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
            <p>{t('kept')}</p>
            <ul>
              {erased.kept.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
            <Group justify="flex-end" mt={16}>
              <Button onClick={onClose}>{t('close')}</Button>
            </Group>
          </>
        ) : (
          <>
            <p>{t('theirFieldsEventsCartsAndOrders')}</p>
            <Group justify="flex-end" mt={16}>
              <Button variant="default" data-autofocus onClick={() => setAsking(false)}>
                {t('cancel')}
              </Button>
              <Button color="clay" loading={isLoading} onClick={() => void run()}>
                {t('erase')}
              </Button>
            </Group>
          </>
        )}
      </Dialog>
    </>
  );
}
