import { useState, type FormEvent } from 'react';
import { Select, Switch } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { notifications } from '@mantine/notifications';
import { useNavigate } from 'react-router';
import { mailApi } from '../../app/mailApi';
import { messageOf } from '../../app/ask';
import { useDeskState } from '../../app/store';
import { FormFoot } from '../../parts/FormFoot';
import { useDesk } from './useDesk';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** A mail to oneself: the template as it is on the desk, filled for the recipient shown. */
export function SendTest({ onClose }: { onClose: () => void }) {
  const { template, recipients, index } = useDeskState('template', 'recipients', 'index');
  const navigate = useNavigate();
  const { asOf } = useDesk();
  const { data } = mailApi.useMailSettingsQuery();
  const [sendTest, { isLoading, error }] = mailApi.useSendTestMutation();
  const [chosen, setChosen] = useState<string | null>(null);
  const [marked, setMarked] = useState(false);
  const person = recipients[index];
  const addresses = data?.settings.test_addresses ?? [];
  const to = chosen ?? addresses[0] ?? null;
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (!template || !person || to === null) return;
    const asked = { template, person: person.id, to, as_of: asOf.toISOString(), marked };
    const { data: sent } = await sendTest(asked);
    if (!sent) return;
    onClose();
    notifications.show({
      title: t('theTestIsOnItsWay', { to: sent.to }),
      // What is notified stands outside of the places, and knows no way between them.
      message: sent.mailbox ? (
        <a
          href="/mailbox"
          onClick={(clicked) => {
            clicked.preventDefault();
            void navigate('/mailbox');
          }}
        >
          {t('openTheMailbox')}
        </a>
      ) : null,
    });
  };
  return (
    <Dialog opened onClose={onClose} title={t('sendYourselfATest')} size={440}>
      <form onSubmit={(event) => void send(event)}>
        <p style={{ marginTop: 0, fontSize: 13 }}>
          {person
            ? t('asNameWouldGetIt', { name: person.name || person.email || t('thisRecipient') })
            : t('chooseARecipientFirst')}
        </p>
        <Select
          label={t('to')}
          data-autofocus
          allowDeselect={false}
          data={addresses}
          value={to}
          onChange={setChosen}
        />
        <Switch
          mt={12}
          label={t('testBeforeTheSubject')}
          checked={marked}
          onChange={({ currentTarget: { checked } }) => setMarked(checked)}
        />
        <FormFoot
          problem={error ? messageOf(error) : null}
          submit={t('send')}
          busy={isLoading}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
