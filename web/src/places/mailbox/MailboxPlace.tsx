import { useEffect, useState } from 'react';
import { Button, SegmentedControl } from '@mantine/core';
import { useSearchParams } from 'react-router';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Received, ReceivedMail } from '@carafe/contract';
import { mailApi } from '../../app/mailApi';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { ago } from '../../parts/ago';
import { localise } from '../../parts/localise';
import { PlaceHead } from '../../parts/PlaceHead';
import { MailSettingsForm } from './MailSettingsForm';
import classes from './Mailbox.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('mailbox');

type View = 'html' | 'text' | 'headers' | 'source';
const VIEWS: { value: View; label: string }[] = [
  { value: 'html', label: t('email') },
  { value: 'text', label: t('text') },
  { value: 'headers', label: t('headers') },
  { value: 'source', label: t('source') },
];

/** The stand-in mailbox: every mail that its server took in, to the byte. */
export function MailboxPlace() {
  const { data, error } = mailApi.useMailboxQuery();
  const [emptyMailbox] = mailApi.useEmptyMailboxMutation();
  const [openId, setOpenId] = useState<string | null>(null);
  const [params, setParams] = useSearchParams();
  const setting = params.has('settings');
  const setSetting = (opened: boolean) => setParams(opened ? { settings: 'open' } : {});
  const mails = data?.mails ?? [];
  const open = mails.find(({ id }) => id === openId) ?? mails[0];
  useEffect(() => {
    document.title = t('mailboxCarafe');
  }, []);
  return (
    <main className={classes.place}>
      <PlaceHead
        title={t('mailbox')}
        hint={t('aStandInMailboxEmailsSent')}
        add={t('emailSettings')}
        icon={null}
        onAdd={() => setSetting(true)}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && mails.length === 0 && (
        <p className="quiet">{t('nothingHasArrivedYetSendYourself')}</p>
      )}
      {open && (
        <div className={classes.columns}>
          <div>
            <ul className={classes.list} aria-label={t('mails')}>
              {mails.map((mail) => (
                <Line
                  key={mail.id}
                  mail={mail}
                  isOpen={mail.id === open.id}
                  onOpen={() => setOpenId(mail.id)}
                />
              ))}
            </ul>
            <Button
              variant="subtle"
              color="clay"
              size="compact-xs"
              mt={10}
              onClick={() => void emptyMailbox()}
            >
              {t('emptyTheMailbox')}
            </Button>
          </div>
          <OpenMail key={open.id} id={open.id} />
        </div>
      )}
      {setting && <MailSettingsForm onClose={() => setSetting(false)} />}
    </main>
  );
}

interface LineProps {
  mail: Received;
  isOpen: boolean;
  onOpen: () => void;
}

function Line({ mail: { subject, to, received_at }, isOpen, onOpen }: LineProps) {
  const now = useNow();
  return (
    <li>
      <button type="button" aria-current={isOpen} onClick={onOpen}>
        <strong>{subject || t('noSubject')}</strong>
        <span className="quiet">
          {t('toToReceivedAt', { to: to.join(', '), received_at: ago(received_at, now) })}
        </span>
      </button>
    </li>
  );
}

function OpenMail({ id }: { id: string }) {
  const { data: mail, error } = mailApi.useMailQuery(id ? id : skipToken);
  const [view, setView] = useState<View>('html');
  return (
    <section className={classes.mail} aria-label={t('mail2')}>
      {error && <p role="alert">{messageOf(error)}</p>}
      {mail && (
        <>
          <h2>{mail.subject || t('noSubject')}</h2>
          <p className="quiet">{t('fromFromToTo', { from: mail.from, to: mail.to.join(', ') })}</p>
          <div className={classes.views}>
            <SegmentedControl
              aria-label={t('whatIsShown')}
              size="xs"
              data={VIEWS}
              value={view}
              onChange={(to) => setView(to as View)}
            />
            <a href={`/api/mailbox/${id}.eml`} download>
              {t('downloadEml')}
            </a>
          </div>
          <Shown mail={mail} view={view} />
        </>
      )}
    </section>
  );
}

function Shown({ mail, view }: { mail: ReceivedMail; view: View }) {
  if (view === 'html')
    return (
      <iframe
        className={classes.frame}
        title={t('theEmailAsItArrived')}
        sandbox="allow-same-origin"
        srcDoc={localise(mail.html)}
      />
    );
  return (
    <pre className={classes.plain} tabIndex={0} aria-label={t('asItArrived')}>
      {mail[view]}
    </pre>
  );
}
