import { useEffect, useRef } from 'react';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { Having, Recipient } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import { peopleApi } from '../../app/peopleApi';
import { messageOf } from '../../app/ask';
import outbox from '../outbox/Outbox.module.css';
import classes from './People.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('people');

/** Which people are listed. */
export interface PeopleAsked {
  q: string;
  having: Having;
  consent?: 'yes' | 'no';
}

interface Props {
  shop: string;
  asked: PeopleAsked;
  onOpen: (email: string) => void;
}

const ROW_HEIGHT = 36;

/** The people that are asked for; more of them come as one scrolls down. */
export function PeopleRows({ shop, asked, onOpen }: Props) {
  const { data, error, isFetching, hasNextPage, fetchNextPage } =
    peopleApi.useListPeopleInfiniteQuery({
      shop,
      ...asked,
    });
  const total = data?.pages[0]?.total ?? null;
  const people = data?.pages.flatMap(({ recipients }) => recipients) ?? [];
  const scroll = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: people.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const shown = rows.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last >= people.length - 20 && hasNextPage && !isFetching) void fetchNextPage();
  }, [last, people.length, hasNextPage, isFetching, fetchNextPage]);
  if (error) return <p role="alert">{messageOf(error)}</p>;
  return (
    <>
      <p className="quiet" role="status">
        {total === null ? t('loading') : counted(total, 'person', 'people')}
      </p>
      {total === 0 && (
        <p className="quiet">
          {asked.q !== '' || asked.having !== 'all' || asked.consent
            ? t('nobodyMatches')
            : t('nobodyYetPeopleComeWithA')}
        </p>
      )}
      {people.length > 0 && (
        <div
          ref={scroll}
          className={outbox.scroll}
          tabIndex={0}
          role="group"
          aria-label={t('people')}
        >
          <table className={classes.table} aria-rowcount={(total ?? 0) + 1}>
            <thead>
              <tr>
                {[t('name'), t('email'), t('newsletters'), t('cart'), t('orders'), t('rank')].map(
                  (name) => (
                    <th key={name} scope="col">
                      {name}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              <tr style={{ height: shown[0]?.start ?? 0 }} aria-hidden />
              {shown.map(({ index }) => {
                const person = people[index];
                return person && <Line key={person.id} {...{ person, onOpen }} />;
              })}
              <tr style={{ height: rows.getTotalSize() - (shown.at(-1)?.end ?? 0) }} aria-hidden />
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}

function Line({ person, onOpen }: { person: Recipient; onOpen: (email: string) => void }) {
  const { email, name, lines, orders, consent, rank, guest } = person;
  return (
    <tr style={{ height: ROW_HEIGHT }}>
      <td>
        <button type="button" className={outbox.open} onClick={() => onOpen(email)}>
          {name || t('noName')}
        </button>
        {guest && (
          <span className="quiet" title={t('withoutAnAccountAtTheShop')}>
            {' '}
            {t('guest')}
          </span>
        )}
      </td>
      <td>{email}</td>
      <td>{consent ? t('agreed') : <span className="quiet">{t('no')}</span>}</td>
      <td>{lines > 0 ? counted(lines, 'line') : <span className="quiet">–</span>}</td>
      <td className="figures">{orders > 0 ? orders : <span className="quiet">–</span>}</td>
      <td className="figures">{rank ?? <span className="quiet">–</span>}</td>
    </tr>
  );
}
