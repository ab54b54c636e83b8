import { useEffect, useRef, useState } from 'react';
import { Button, SegmentedControl } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useSearchParams } from 'react-router';
import { OUTBOX_STATES, type OutboxItem } from '@carafe/contract';
import { occasionsApi, outboxApi } from '../../app/occasionsApi';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { ago, ahead } from '../../parts/ago';
import { counted, figure } from '../../parts/counted';
import { notifyFailure } from '../../parts/notify';
import { PlaceHead, PlaceSearch } from '../../parts/PlaceHead';
import { useShop } from '../../parts/useShop';
import { MailSettingsForm } from '../mailbox/MailSettingsForm';
import { MailSheet } from './MailSheet';
import { StateMark } from './StateMark';
import { STATE_WORDS } from './states';
import { useOutbox, type OutboxAsked } from './useOutbox';
import classes from './Outbox.module.css';

const ROW_HEIGHT = 38;

/** Every mail that was made, and what becomes of it. */
export function OutboxPlace() {
  const { shop, choice } = useShop();
  const [params, setParams] = useSearchParams();
  const [words, setWords] = useState(params.get('email') ?? '');
  const [search] = useDebouncedValue(words, 250);
  const [setting, setSetting] = useState(false);
  const { data: summary, error } = outboxApi.useOutboxSummaryQuery(shop ?? skipToken);
  const { data: known } = occasionsApi.useOccasionsQuery(shop ?? skipToken);
  const state = OUTBOX_STATES.find((one) => one === params.get('state'));
  const occasion = params.get('occasion') ?? undefined;
  const step = params.get('step') ?? undefined;
  const openId = params.get('mail');
  const now = useNow();
  useEffect(() => {
    document.title = 'Outbox · Carafe';
  }, []);
  const change = (to: Record<string, string | undefined>) => {
    const next = new URLSearchParams(params);
    for (const [name, value] of Object.entries(to))
      if (value === undefined) next.delete(name);
      else next.set(name, value);
    setParams(next, { replace: true });
  };
  const counts = new Map(summary?.states.map((one) => [one.state, one.count]));
  const all = [...counts.values()].reduce((a, b) => a + b, 0);
  const asked: OutboxAsked = { state, occasion, step, search: search.trim() || undefined };
  return (
    <main className={classes.place}>
      <PlaceHead
        title="Outbox"
        beside={choice}
        hint={
          summary?.test_only
            ? 'Test-only: whatever is sent goes to the stand-in mailbox, and to nobody else.'
            : 'Mails go to people.'
        }
        add="How mails leave"
        icon={null}
        onAdd={() => setSetting(true)}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {summary?.paused && (
        <p className={classes.paused} role="status">
          Nothing leaves now. {summary.paused}
          {summary.paused_until && ` It is tried again ${ahead(summary.paused_until, now)}.`}
        </p>
      )}
      <div className={classes.tools}>
        <SegmentedControl
          size="xs"
          aria-label="Which mails"
          value={state ?? 'all'}
          data={[
            { value: 'all', label: `All ${figure(all)}` },
            ...OUTBOX_STATES.filter((one) => (counts.get(one) ?? 0) > 0 || one === state).map(
              (one) => ({
                value: one,
                label: `${STATE_WORDS[one]} ${figure(counts.get(one) ?? 0)}`,
              }),
            ),
          ]}
          onChange={(to) => change({ state: to === 'all' ? undefined : to })}
        />
        <PlaceSearch label="Search mails" value={words} onChange={setWords} />
        {occasion !== undefined && (
          <Button
            variant="default"
            size="compact-sm"
            onClick={() => change({ occasion: undefined, step: undefined })}
          >
            Only{' '}
            {known?.occasions.find(({ id }) => id === occasion)?.occasion.name ?? 'one occasion'}
            {step !== undefined && ', one step of it'} ×
          </Button>
        )}
      </div>
      {shop !== undefined && <Rows {...{ shop, asked }} onOpen={(mail) => change({ mail })} />}
      {shop !== undefined && openId !== null && (
        <MailSheet
          key={openId}
          shop={shop}
          id={openId}
          onClose={() => change({ mail: undefined })}
        />
      )}
      {setting && <MailSettingsForm onClose={() => setSetting(false)} />}
    </main>
  );
}

function Rows({
  shop,
  asked,
  onOpen,
}: {
  shop: string;
  asked: OutboxAsked;
  onOpen: (id: string) => void;
}) {
  const { total, at, want, problem } = useOutbox(shop, asked);
  const [change, changing] = outboxApi.useChangeOutboxMutation();
  const scroll = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: total ?? 0,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const shown = rows.getVirtualItems();
  const from = shown[0]?.index ?? 0;
  const to = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (total) want(from, to);
  }, [from, to, total, want]);
  const all = async (what: 'approve' | 'stop' | 'go_on') => {
    const { error } = await change({ shop, to: what, query: asked });
    if (error) notifyFailure(error);
  };
  const query = new URLSearchParams(
    Object.entries(asked).flatMap(([name, value]) => (value ? [[name, value]] : [])),
  ).toString();
  const file = (kind: string) => `/api/shops/${shop}/outbox.${kind}${query && `?${query}`}`;
  const canStop = asked.state === undefined || ['held', 'waiting', 'ready'].includes(asked.state);
  return (
    <>
      {problem && <p role="alert">{problem}</p>}
      <div className={classes.bulk}>
        <span className="quiet" role="status">
          {total === null ? 'Looking …' : counted(total, 'mail')}
        </span>
        {asked.state === 'held' && (total ?? 0) > 0 && (
          <Button
            size="compact-sm"
            loading={changing.isLoading}
            onClick={() => void all('approve')}
          >
            Approve all {figure(total ?? 0)}
          </Button>
        )}
        {asked.state !== undefined && canStop && (total ?? 0) > 0 && (
          <Button variant="default" size="compact-sm" onClick={() => void all('stop')}>
            Stop all {figure(total ?? 0)}
          </Button>
        )}
        {asked.state === 'stopped' && (total ?? 0) > 0 && (
          <Button
            variant="default"
            size="compact-sm"
            loading={changing.isLoading}
            onClick={() => void all('go_on')}
          >
            Go on with those stopped by hand
          </Button>
        )}
        <span className={classes.files}>
          Download <a href={file('csv')}>CSV</a> <a href={file('ndjson')}>NDJSON</a>{' '}
          <a href={file('zip')}>ZIP of .eml</a>
        </span>
      </div>
      {total === 0 && (
        <p className="quiet">
          {asked.state || asked.search || asked.occasion
            ? 'No mail is like that.'
            : 'No mail was made yet. Switch an occasion on, and its mails stand here: waiting, held, or sent.'}
        </p>
      )}
      {(total ?? 0) > 0 && (
        <div ref={scroll} className={classes.scroll} tabIndex={0} aria-label="Mails">
          <table className={classes.table} aria-rowcount={(total ?? 0) + 1}>
            <thead>
              <tr>
                {['Made', 'To', 'Subject', 'Occasion', 'State'].map((name) => (
                  <th key={name} scope="col">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr style={{ height: shown[0]?.start ?? 0 }} aria-hidden />
              {shown.map(({ index }) => {
                const mail = at(index);
                return mail ? (
                  <Line key={mail.id} mail={mail} onOpen={() => onOpen(mail.id)} />
                ) : (
                  <tr key={index} style={{ height: ROW_HEIGHT }}>
                    <td colSpan={5}>…</td>
                  </tr>
                );
              })}
              <tr style={{ height: rows.getTotalSize() - (shown.at(-1)?.end ?? 0) }} aria-hidden />
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}

function Line({ mail, onOpen }: { mail: OutboxItem; onOpen: () => void }) {
  const now = useNow();
  const { email, to, recipient, subject, template_name, occasion_name, state, reason } = mail;
  return (
    <tr style={{ height: ROW_HEIGHT }}>
      <td className="quiet">{ago(mail.made_at, now)}</td>
      <td>
        <button type="button" className={classes.open} onClick={onOpen}>
          {recipient === 'owner' ? `the owner, about ${email}` : (to ?? email)}
        </button>
      </td>
      <td className={classes.clip}>{subject ?? <span className="quiet">{template_name}</span>}</td>
      <td className={classes.clip}>{occasion_name}</td>
      <td>
        <StateMark state={state} />{' '}
        {state === 'ready' && mail.attempts > 0 && (
          <span className="quiet">again {ahead(mail.next_at, now)}</span>
        )}
        {reason && <span className={classes.reason}>{reason}</span>}
      </td>
    </tr>
  );
}
