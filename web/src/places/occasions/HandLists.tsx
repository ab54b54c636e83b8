import { useState } from 'react';
import { Button, Checkbox, SegmentedControl, Select } from '@mantine/core';
import type { StoredOccasion } from '@carafe/contract';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { occasionsApi } from '../../app/occasionsApi';
import { ago } from '../../parts/ago';
import { counted, figure } from '@carafe/core/words';
import { SideSheet } from '../../parts/SideSheet';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

type List = 'carts' | 'orders';

/** Carts that are left now, and orders that are not paid: some of them are chosen and written to. */
export function HandLists({
  shop,
  occasions,
  onClose,
}: {
  shop: string;
  occasions: readonly StoredOccasion[];
  onClose: () => void;
}) {
  const [list, setList] = useState<List>('carts');
  const { data, error } = occasionsApi.useHandListQuery({ shop, list });
  const [start, starting] = occasionsApi.useStartByHandMutation();
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const hand = occasions.filter(
    ({ occasion, on_since }) => occasion.start.kind === 'by_hand' && on_since !== null,
  );
  const [by, setBy] = useState<string | null>(null);
  const id = by ?? hand[0]?.id ?? null;
  const rows = data?.rows ?? [];
  const one = list === 'carts' ? 'cart' : 'order';
  const now = useNow();
  const toggle = (person: number) => {
    const next = new Set(chosen);
    if (!next.delete(person)) next.add(person);
    setChosen(next);
  };
  const send = async () => {
    if (id === null) return;
    const { error: refused } = await start({
      ...{ id, people: [...chosen] },
      name: `${list} ${now.toISOString().slice(0, 16)}`,
    });
    if (!refused) setChosen(new Set());
  };
  const told = starting.data;
  return (
    <SideSheet title={t('sendByHand')} width={760} onClose={onClose}>
      <div className={classes.line}>
        <SegmentedControl
          size="xs"
          aria-label={t('whichList')}
          value={list}
          data={[
            { value: 'carts', label: t('cartsLeftNow') },
            { value: 'orders', label: t('ordersNotPaid') },
          ]}
          onChange={(to) => {
            setList(to as List);
            setChosen(new Set());
          }}
        />
        <Select
          aria-label={t('byWhichOccasion')}
          size="xs"
          w={220}
          placeholder={t('anOccasionStartedByHand')}
          nothingFoundMessage={t('noneIsOn')}
          data={hand.map((one) => ({ value: one.id, label: one.occasion.name }))}
          value={id}
          onChange={setBy}
        />
        <Button
          size="compact-sm"
          disabled={id === null || chosen.size === 0}
          loading={starting.isLoading}
          onClick={() => void send()}
        >
          {chosen.size === 0
            ? t('send')
            : t('sendToPeople', { people: counted(chosen.size, 'person', 'people') })}
        </Button>
      </div>
      {hand.length === 0 && <p className="quiet">{t('firstSwitchOnAnOccasionThat')}</p>}
      {(error ?? starting.error) && <p role="alert">{messageOf(error ?? starting.error)}</p>}
      {told && (
        <p role="status">
          {t('peopleEnteredEmailsCreatedPeopleWho', {
            people: counted(told.entered, 'person', 'people'),
            emails: counted(told.mails, 'email'),
          })}
        </p>
      )}
      {data && rows.length === 0 && <p className="quiet">{t('thereAreNoneNow')}</p>}
      {data && rows.length > 0 && (
        <p className="quiet">
          {data.of > rows.length
            ? t('theLatestNumberOfOf', { number: figure(rows.length), of: counted(data.of, one) })
            : t('ofTheLatestFirst', { of: counted(data.of, one) })}
        </p>
      )}
      <table className={classes.table}>
        {rows.length > 0 && (
          <thead>
            <tr>
              <td colSpan={6}>
                <Checkbox
                  size="xs"
                  label={
                    rows.length === 1
                      ? t('chooseIt')
                      : t('chooseAllNumber', { number: figure(rows.length) })
                  }
                  checked={chosen.size === rows.length}
                  indeterminate={chosen.size > 0 && chosen.size < rows.length}
                  onChange={() =>
                    setChosen(
                      new Set(chosen.size === rows.length ? [] : rows.map(({ person }) => person)),
                    )
                  }
                />
              </td>
            </tr>
          </thead>
        )}
        <tbody>
          {rows.map(({ person, name, email, what, total, currency, since, last_mail, consent }) => (
            <tr key={person}>
              <td>
                <Checkbox
                  size="xs"
                  aria-label={name || email}
                  checked={chosen.has(person)}
                  onChange={() => toggle(person)}
                />
              </td>
              <th scope="row">
                {name || email}
                {!consent && <span className="quiet"> {t('noConsent')}</span>}
              </th>
              <td className={classes.what}>{what}</td>
              <td className="figures">
                {new Intl.NumberFormat('en-GB', {
                  style: 'currency',
                  currency: currency || 'GBP',
                }).format(total)}
              </td>
              <td className={classes.short}>{ago(since, now)}</td>
              <td className={`quiet ${classes.short}`}>
                {last_mail
                  ? t('mailLastMail', { last_mail: ago(last_mail, now) })
                  : t('noEmailYet')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </SideSheet>
  );
}
