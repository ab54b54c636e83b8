import { useEffect, useRef, useState } from 'react';
import { Button, Checkbox } from '@mantine/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { OutboxItem, OutboxState } from '@carafe/contract';
import { useNow } from '../../app/useNow';
import { ago, ahead } from '../../parts/ago';
import { counted, figure } from '@carafe/core/words';
import { ChosenMails } from './ChosenMails';
import { StateMark } from './StateMark';
import { useChangeMails, type MailChange } from './useChangeMails';
import { useOutbox, type OutboxAsked } from './useOutbox';
import classes from './Outbox.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

const ROW_HEIGHT = 38;

/** The mails that are asked for, as far as they are in view, and what can be done with all of them or with some. */
export function OutboxRows({
  shop,
  asked,
  onOpen,
}: {
  shop: string;
  asked: OutboxAsked;
  onOpen: (id: string) => void;
}) {
  const { total, at, want, loaded, problem } = useOutbox(shop, asked);
  const { change, isChanging, dialog } = useChangeMails(shop);
  const [chosen, setChosen] = useState<ReadonlyMap<string, OutboxState>>(new Map());
  const lastChosen = useRef(0);
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
  const all = (what: MailChange) => void change(what, { query: asked, count: total ?? 0 });
  const query = new URLSearchParams(
    Object.entries(asked).flatMap(([name, value]) => (value ? [[name, value]] : [])),
  ).toString();
  // What is chosen is of what is looked at.
  useEffect(() => setChosen(new Map()), [shop, query]);
  /** Chooses a row or not; with the range since the one before it. */
  const choose = (index: number, isIn: boolean, isRange: boolean) => {
    const from = isRange ? Math.min(lastChosen.current, index) : index;
    const to = isRange ? Math.max(lastChosen.current, index) : index;
    lastChosen.current = index;
    const next = new Map(chosen);
    for (let i = from; i <= to; i++) {
      const mail = at(i);
      if (mail && isIn) next.set(mail.id, mail.state);
      else if (mail) next.delete(mail.id);
    }
    setChosen(next);
  };
  const file = (kind: string) => `/api/shops/${shop}/outbox.${kind}${query && `?${query}`}`;
  const canStop = asked.state === undefined || ['held', 'waiting', 'ready'].includes(asked.state);
  return (
    <>
      {dialog}
      {problem && <p role="alert">{problem}</p>}
      <div className={classes.bulk}>
        {chosen.size > 0 ? (
          <ChosenMails shop={shop} chosen={chosen} onDone={() => setChosen(new Map())} />
        ) : (
          <span className="quiet" role="status">
            {total === null ? t('loading') : counted(total, 'email')}
          </span>
        )}
        {chosen.size === 0 && asked.state === 'held' && (total ?? 0) > 0 && (
          <Button size="compact-sm" loading={isChanging} onClick={() => all('approve')}>
            {t('approveAllTotal', { total: figure(total ?? 0) })}
          </Button>
        )}
        {chosen.size === 0 && asked.state !== undefined && canStop && (total ?? 0) > 0 && (
          <Button variant="default" size="compact-sm" onClick={() => all('stop')}>
            {t('stopAllTotal', { total: figure(total ?? 0) })}
          </Button>
        )}
        {chosen.size === 0 && asked.state === 'stopped' && (total ?? 0) > 0 && (
          <Button
            variant="default"
            size="compact-sm"
            loading={isChanging}
            onClick={() => all('go_on')}
          >
            {t('resumeThoseStoppedByHand')}
          </Button>
        )}
        {chosen.size === 0 && asked.state === 'bounced' && (total ?? 0) > 0 && (
          <Button
            variant="default"
            size="compact-sm"
            loading={isChanging}
            onClick={() => all('try_again')}
          >
            {t('tryAllTotalOnceMore', { total: figure(total ?? 0) })}
          </Button>
        )}
        {(total ?? 0) > 0 && (
          <span className={classes.files}>
            {t('download')} <a href={file('csv')}>{t('cSV')}</a>{' '}
            <a href={file('ndjson')}>{t('nDJSON')}</a> <a href={file('zip')}>{t('zIPOfEml')}</a>
          </span>
        )}
      </div>
      {total === 0 && (
        <p className="quiet">
          {asked.state || asked.search || asked.occasion
            ? t('noEmailMatches')
            : t('noEmailsYetSwitchOnAn')}
        </p>
      )}
      {(total ?? 0) > 0 && (
        <div ref={scroll} className={classes.scroll} tabIndex={0} aria-label={t('mails')}>
          <table className={classes.table} aria-rowcount={(total ?? 0) + 1}>
            <thead>
              <tr>
                <th scope="col">
                  <Checkbox
                    size="xs"
                    aria-label={t('chooseAllEmailsThatAreLoaded')}
                    checked={chosen.size > 0 && loaded.every(({ id }) => chosen.has(id))}
                    indeterminate={chosen.size > 0 && !loaded.every(({ id }) => chosen.has(id))}
                    onChange={({ currentTarget }) =>
                      setChosen(
                        new Map(
                          currentTarget.checked ? loaded.map(({ id, state }) => [id, state]) : [],
                        ),
                      )
                    }
                  />
                </th>
                {[t('made'), t('to'), t('subject'), t('occasion'), t('state')].map((name) => (
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
                  <Line
                    key={mail.id}
                    mail={mail}
                    isChosen={chosen.has(mail.id)}
                    onChoose={(isIn, isRange) => choose(index, isIn, isRange)}
                    onOpen={() => onOpen(mail.id)}
                  />
                ) : (
                  <tr key={index} style={{ height: ROW_HEIGHT }}>
                    <td colSpan={6}>…</td>
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

function Line({
  mail,
  isChosen,
  onChoose,
  onOpen,
}: {
  mail: OutboxItem;
  isChosen: boolean;
  onChoose: (isIn: boolean, isRange: boolean) => void;
  onOpen: () => void;
}) {
  const now = useNow();
  const { email, to, recipient, subject, template_name, occasion_name, state, reason, name } = mail;
  return (
    <tr style={{ height: ROW_HEIGHT }} data-chosen={isChosen || undefined}>
      <td>
        <Checkbox
          size="xs"
          aria-label={t('chooseTheEmailToTo', { to: to ?? email })}
          checked={isChosen}
          onChange={({ currentTarget, nativeEvent }) =>
            onChoose(currentTarget.checked, (nativeEvent as MouseEvent).shiftKey)
          }
        />
      </td>
      <td className="quiet">{ago(mail.made_at, now)}</td>
      <td>
        <button type="button" className={classes.open} onClick={onOpen}>
          {recipient === 'owner' ? t('theOwnerAboutEmail', { email }) : (to ?? email)}
        </button>
        {name !== null && <span className="quiet"> {name}</span>}
      </td>
      <td className={classes.clip}>
        {/* The address opens it by keyboard; the subject by mouse as well. */}
        <button type="button" tabIndex={-1} className={classes.subject} onClick={onOpen}>
          {subject ?? <span className="quiet">{template_name}</span>}
        </button>
      </td>
      <td className={classes.clip}>{occasion_name}</td>
      <td>
        <StateMark state={state} />{' '}
        {state === 'ready' && mail.attempts > 0 && (
          <span className="quiet">
            {t('again')} {ahead(mail.next_at, now)}
          </span>
        )}
        {reason && <span className={classes.reason}>{reason}</span>}
      </td>
    </tr>
  );
}
