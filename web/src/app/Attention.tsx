import { Button } from '@mantine/core';
import { Link } from 'react-router';
import type { AttentionItem } from '@carafe/contract';
import { counted, figure } from '@carafe/core/words';
import { ahead } from '../parts/ago';
import { notifyFailure } from '../parts/notify';
import { occasionsApi, outboxApi } from './occasionsApi';
import { useNow } from './useNow';
import classes from './Shell.module.css';

/** What waits for an answer, or does not go on by itself: said on every screen, with the way out. */
export function Attention() {
  const { data } = outboxApi.useAttentionQuery();
  const items = data?.items ?? [];
  if (items.length === 0) return null;
  return (
    <section className={classes.needs} aria-label="Needs attention">
      {items.slice(0, MOST_SHOWN).map((item) => (
        <Item key={keyOf(item)} item={item} />
      ))}
      {items.length > MOST_SHOWN && (
        <p>And {counted(items.length - MOST_SHOWN, 'more', 'more')}: settle these first.</p>
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
          No email leaves now. {item.why}
          {item.until !== null && ` Carafe tries again ${ahead(item.until, now)}.`}{' '}
          <Link to="/outbox">Open the outbox</Link>
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
            ? 'It is not known whether one email was sent.'
            : `It is not known whether ${figure(item.emails)} emails were sent.`}{' '}
          <Link to={`/outbox?shop=${item.shop}&state=in_doubt`}>Settle them</Link>
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
      {figure(people)} people entered{' '}
      <Link to={`/occasions?shop=${shop}&open=${occasion}`}>“{name}”</Link> within an hour; this
      shop allows {figure(most)}.{' '}
      {held === 0 ? (
        'Its emails wait for your answer.'
      ) : (
        <Link to={`/outbox?shop=${shop}&state=held&occasion=${occasion}`}>
          {counted(held, 'email')} {held === 1 ? 'waits' : 'wait'} for your answer.
        </Link>
      )}
      <Button
        size="compact-xs"
        variant="default"
        loading={answering.isLoading}
        onClick={() => void say('send')}
      >
        Send them
      </Button>
      <Button
        size="compact-xs"
        variant="default"
        loading={answering.isLoading}
        onClick={() => void say('stop')}
      >
        Stop them and switch it off
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
      {job.name} failed: {job.about}. {job.reason} Everything else goes on.{' '}
      {job.again_at !== null && `Carafe tries it again ${ahead(job.again_at, now)}.`}
      <Button
        size="compact-xs"
        variant="default"
        loading={retrying.isLoading}
        onClick={() => void retry(job.id).then(tell)}
      >
        Retry now
      </Button>
      <Button size="compact-xs" variant="default" onClick={() => void drop(job.id).then(tell)}>
        Drop it
      </Button>
    </p>
  );
}
