import { useState } from 'react';
import { Button, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { counted } from '@carafe/core/words';
import { outboxApi } from '../../app/occasionsApi';
import { messageOf } from '../../app/ask';
import { momentOf } from '../../parts/moment';
import { notifyFailure } from '../../parts/notify';
import { SideSheet } from '../../parts/SideSheet';
import classes from './Outbox.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

/** Addresses that a mail server refused, and the way to write to one again. */
export function FailedAddresses({ onClose }: { onClose: () => void }) {
  const [words, setWords] = useState('');
  const [q] = useDebouncedValue(words, 250);
  const { data, error } = outboxApi.useFailedAddressesQuery(q);
  const [allow, { isLoading }] = outboxApi.useAllowAddressMutation();
  const again = async (email: string) => {
    const { error: refused } = await allow(email);
    if (refused) notifyFailure(refused);
  };
  return (
    <SideSheet title={t('failedAddresses')} width={560} onClose={onClose}>
      <p className="quiet">{t('theMailServerSaidThatThese')}</p>
      <TextInput
        size="xs"
        aria-label={t('searchFailedAddresses')}
        placeholder={t('search')}
        value={words}
        onChange={({ currentTarget }) => setWords(currentTarget.value)}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && (
        <p className="quiet" role="status">
          {counted(data.total, 'address', 'addresses')}
          {data.total > data.addresses.length &&
            t('theLatestNumberAreShown', { number: data.addresses.length })}
        </p>
      )}
      <ul className={classes.failed} aria-label={t('failedAddresses')}>
        {data?.addresses.map(({ email, at, reason }) => (
          <li key={email}>
            <div>
              <strong>{email}</strong>
              <div className="quiet">
                {momentOf(at)}: {reason}
              </div>
            </div>
            <Button
              size="compact-xs"
              variant="default"
              loading={isLoading}
              aria-label={t('allowEmailAgain', { email })}
              onClick={() => void again(email)}
            >
              {t('allowAgain')}
            </Button>
          </li>
        ))}
      </ul>
    </SideSheet>
  );
}
