import { Button } from '@mantine/core';
import { Link } from 'react-router';
import type { AttentionItem } from '@carafe/contract';
import { counted, figure } from '@carafe/core/words';
import { ahead } from '../parts/ago';
import { notifyFailure } from '../parts/notify';
import { occasionsApi, outboxApi } from './occasionsApi';
import { useNow } from './useNow';
import classes from './Shell.module.css';
import { wordsOf } from '../words';

const t = wordsOf('app');

/** What waits for an answer, or does not go on by itself: said on every screen, with the way out. */
export function Attention() {
  const { data } = outboxApi.useAttentionQuery();
  const items = data?.items ?? [];
  if (items.length === 0) return null;
  return (
    <section className={classes.needs} aria-label={t('needsAttention')}>
      {items.slice(0, MOST_SHOWN).map((item) => (
        <Item key={keyOf(item)} item={item} />
      ))}
      {items.length > MOST_SHOWN && (
        <p>
          {t('andMoresSettleTheseFirst', {
            mores: counted(items.length - MOST_SHOWN, 'more', 'more'),
          })}
        </p>
      )}
    </section>
  );
}

/** So many are shown at once: the page below is still to be seen. */
const MOST_SHOWN = 4;

const keyOf = (item: AttentionItem): string => {
  if (item.kind === 'crowd') return `crowd ${item.occasion}`;
  if (item.kind === 'set_aside') return `job ${item.id}`;
  if (item.kind === 'problem') return item.message;
  return item.kind === 'in_doubt' ? `in doubt ${item.shop}` : item.kind;
};

function Item({ item }: { item: AttentionItem }) {
  const now = useNow();
  switch (item.kind) {
    case 'crowd':
      return <Crowd crowd={item} />;
    case 'paused':
      return (
        <p>
          {t('noEmailLeavesNow')} {item.why}
          {item.until !== null &&
            t('carafeTriesAgainUntil', { until: ahead(item.until, now) })}{' '}
          <Link to="/outbox">{t('openTheOutbox')}</Link>
        </p>
      );
    case 'set_aside':
      return <SetAside job={item} />;
    case 'problem':
      return <p>{item.message}</p>;
    case 'in_doubt':
      return (
        <p>
          {item.emails === 1
            ? t('itIsNotKnownWhetherOne')
            : t('itIsNotKnownWhetherEmails', { emails: figure(item.emails) })}{' '}
          <Link to={`/outbox?shop=${item.shop}&state=in_doubt`}>{t('settleThem')}</Link>
        </p>
      );
  }
}

function Crowd({ crowd }: { crowd: Extract<AttentionItem, { kind: 'crowd' }> }) {
  const { shop, occasion, name, people, most, held } = crowd;
  const [answer, answering] = occasionsApi.useAnswerCrowdMutation();
  const say = async (what: 'send' | 'stop') => {
    const { error } = await answer({ id: occasion, answer: what });
    if (error) notifyFailure(error);
  };
  return (
    <p>
      {figure(people)} {t('peopleEntered')}{' '}
      <Link to={`/occasions?shop=${shop}&open=${occasion}`}>“{name}”</Link>{' '}
      {t('withinAnHourThisShopAllows')} {figure(most)}.{' '}
      {held === 0 ? (
        t('itsEmailsWaitForYourAnswer')
      ) : (
        <Link to={`/outbox?shop=${shop}&state=held&occasion=${occasion}`}>
          {t('emailsWhichForYourAnswer', {
            emails: counted(held, 'email'),
            which: held === 1 ? t('waits') : t('wait'),
          })}
        </Link>
      )}
      <Button
        size="compact-xs"
        variant="default"
        loading={answering.isLoading}
        onClick={() => void say('send')}
      >
        {t('sendThem')}
      </Button>
      <Button
        size="compact-xs"
        variant="default"
        loading={answering.isLoading}
        onClick={() => void say('stop')}
      >
        {t('stopThemAndSwitchItOff')}
      </Button>
    </p>
  );
}

function SetAside({ job }: { job: Extract<AttentionItem, { kind: 'set_aside' }> }) {
  const now = useNow();
  const [retry, retrying] = outboxApi.useRetryJobMutation();
  const [drop] = outboxApi.useDropJobMutation();
  const tell = ({ error }: { error?: unknown }) => error !== undefined && notifyFailure(error);
  return (
    <p>
      {job.name} {t('failed')} {job.about}. {job.reason} {t('everythingElseGoesOn')}{' '}
      {job.again_at !== null &&
        t('carafeTriesItAgainAgainAt', { again_at: ahead(job.again_at, now) })}
      <Button
        size="compact-xs"
        variant="default"
        loading={retrying.isLoading}
        onClick={() => void retry(job.id).then(tell)}
      >
        {t('retryNow')}
      </Button>
      <Button size="compact-xs" variant="default" onClick={() => void drop(job.id).then(tell)}>
        {t('dropIt')}
      </Button>
    </p>
  );
}
