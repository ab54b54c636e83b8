import { useEffect, useState } from 'react';
import { Button, SegmentedControl, Select } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import { useSearchParams } from 'react-router';
import { OUTBOX_STATES, type OutboxState, type OutboxSummary } from '@carafe/contract';
import { outboxApi } from '../../app/occasionsApi';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { ahead } from '../../parts/ago';
import { figure } from '@carafe/core/words';
import { PlaceHead, PlaceSearch } from '../../parts/PlaceHead';
import { useShop } from '../../parts/useShop';
import { MailSettingsForm } from '../mailbox/MailSettingsForm';
import { FailedAddresses } from './FailedAddresses';
import { MailSheet } from './MailSheet';
import { OccasionFilter } from './OccasionFilter';
import { OutboxRows } from './OutboxRows';
import { STATE_WORDS } from './states';
import type { OutboxAsked } from './useOutbox';
import classes from './Outbox.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

/** Every mail that was made, and what becomes of it. */
export function OutboxPlace() {
  const { shop, choice } = useShop();
  const [params, setParams] = useSearchParams();
  const [words, setWords] = useState(params.get('email') ?? '');
  const [search] = useDebouncedValue(words, 250);
  const [setting, setSetting] = useState(false);
  const [isListing, setListing] = useState(false);
  const { data: summary, error } = outboxApi.useOutboxSummaryQuery(shop ?? skipToken);
  const state = OUTBOX_STATES.find((one) => one === params.get('state'));
  const occasion = params.get('occasion') ?? undefined;
  const step = params.get('step') ?? undefined;
  const reason = params.get('reason') ?? undefined;
  const openId = params.get('mail');
  const now = useNow();
  useEffect(() => {
    document.title = t('outboxCarafe');
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
  const asked: OutboxAsked = {
    ...{ state, occasion, step, reason, search: search.trim() || undefined },
  };
  return (
    <main className={classes.place}>
      <PlaceHead
        title={t('outbox')}
        beside={choice}
        hint={
          summary &&
          (summary.stays_here ? t('everythingThatIsSentGoesTo') : t('emailsGoToRealPeople'))
        }
        add={t('emailSettings')}
        icon={null}
        onAdd={() => setSetting(true)}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {summary?.paused && (
        <p className={classes.paused} role="status">
          {t('sendingIsPaused')} {summary.paused}
          {summary.paused_until &&
            t('carafeTriesAgainPausedUntil', { paused_until: ahead(summary.paused_until, now) })}
        </p>
      )}
      <div className={classes.tools}>
        <SegmentedControl
          size="xs"
          aria-label={t('state')}
          value={state ?? 'all'}
          data={[
            { value: 'all', label: t('allAll', { all: figure(all) }) },
            ...OUTBOX_STATES.filter((one) => (counts.get(one) ?? 0) > 0 || one === state).map(
              (one) => ({
                value: one,
                label: `${STATE_WORDS[one]} ${figure(counts.get(one) ?? 0)}`,
              }),
            ),
          ]}
          onChange={(to) => change({ state: to === 'all' ? undefined : to, reason: undefined })}
        />
        <PlaceSearch label={t('searchEmails')} value={words} onChange={setWords} />
        <OccasionFilter {...{ shop, occasion, step }} onChange={change} />
        <Button variant="subtle" size="compact-sm" onClick={() => setListing(true)}>
          {t('failedAddresses')}
        </Button>
        <ReasonFilter {...{ state, reason }} reasons={summary?.reasons ?? []} onChange={change} />
      </div>
      {shop !== undefined && (
        <OutboxRows {...{ shop, asked }} onOpen={(mail) => change({ mail })} />
      )}
      {shop !== undefined && openId !== null && (
        <MailSheet
          key={openId}
          shop={shop}
          id={openId}
          onClose={() => change({ mail: undefined })}
        />
      )}
      {isListing && <FailedAddresses onClose={() => setListing(false)} />}
      {setting && <MailSettingsForm onClose={() => setSetting(false)} />}
    </main>
  );
}

/** Why emails did not go, or wait. */
function ReasonFilter({
  state,
  reason,
  reasons,
  onChange,
}: {
  state: OutboxState | undefined;
  reason: string | undefined;
  reasons: OutboxSummary['reasons'];
  onChange: (to: { reason: string | undefined }) => void;
}) {
  const counts = new Map<string, number>();
  for (const one of reasons)
    if (state === undefined || one.state === state)
      counts.set(one.reason, (counts.get(one.reason) ?? 0) + one.count);
  if (reason !== undefined && !counts.has(reason)) counts.set(reason, 0);
  if (counts.size === 0) return null;
  return (
    <Select
      aria-label={t('reason')}
      placeholder={t('allReasons')}
      size="xs"
      w={260}
      clearable
      searchable
      data={[...counts].map(([value, count]) => ({ value, label: `${value} (${figure(count)})` }))}
      value={reason ?? null}
      onChange={(to) => onChange({ reason: to ?? undefined })}
    />
  );
}
