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
    <SideSheet title="Failed addresses" width={560} onClose={onClose}>
      <p className="quiet">
        The mail server said that these addresses do not exist, so no shop writes to them. If one
        was refused by mistake, allow it again: the next email goes to it.
      </p>
      <TextInput
        size="xs"
        aria-label="Search failed addresses"
        placeholder="Search"
        value={words}
        onChange={({ currentTarget }) => setWords(currentTarget.value)}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && (
        <p className="quiet" role="status">
          {counted(data.total, 'address', 'addresses')}
          {data.total > data.addresses.length && `, the latest ${data.addresses.length} are shown`}
        </p>
      )}
      <ul className={classes.failed} aria-label="Failed addresses">
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
              aria-label={`Allow ${email} again`}
              onClick={() => void again(email)}
            >
              Allow again
            </Button>
          </li>
        ))}
      </ul>
    </SideSheet>
  );
}
