import { useEffect, useRef, useState } from 'react';
import { Button, Popover, SegmentedControl, TextInput, UnstyledButton } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { IconSearch } from '@tabler/icons-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { Having, Recipient } from '@carafe/contract';
import { useAppDispatch, useDeskState } from '../../app/store';
import { counted } from '@carafe/core/words';
import { deskActions } from './deskSlice';
import { TestRecipients } from './TestRecipients';
import { WhoFilter } from './WhoFilter';
import { placeWords } from './placeWords';
import { useShownIndex } from './useShownIndex';
import classes from './WhoBar.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

const ROW_HEIGHT = 42;
const LIST_HEIGHT = 273;

const FILTERS: { value: Having; label: string }[] = [
  { value: 'all', label: t('everyone') },
  { value: 'cart', label: t('withACart') },
  { value: 'order', label: t('withAnOrder') },
];

/** Finds a recipient by words, among everyone or those who have what the mail reads. */
export function WhoSearch() {
  const dispatch = useAppDispatch();
  const index = useShownIndex();
  const { recipients, total, guests, having, search, filter } = useDeskState(
    'recipients',
    'total',
    'guests',
    'having',
    'search',
    'filter',
  );
  const [opened, setOpened] = useState(false);
  const [testing, setTesting] = useState(false);
  const [words, setWords] = useState(search);
  // The search can be set and cleared from elsewhere too.
  useEffect(() => setWords(search), [search]);
  const ask = useDebouncedCallback(
    (q: string) => dispatch(deskActions.searched({ search: q })),
    150,
  );
  // The arrows begin at whoever is shown, and anew when others are listed.
  const [active, setActive] = useState(0);
  useEffect(() => setActive(index), [index, opened, search, having, filter]);
  const choose = (at: number) => {
    dispatch(deskActions.flipped(at));
    setOpened(false);
  };
  return (
    <Popover
      opened={opened}
      onChange={setOpened}
      width={420}
      position="bottom-start"
      shadow="sm"
      trapFocus
      returnFocus
    >
      <Popover.Target>
        <UnstyledButton
          className={classes.count}
          onClick={() => setOpened((o) => !o)}
          aria-label={t('findARecipient')}
        >
          <IconSearch size={14} />
          <span className="figures">
            {placeWords({ recipient: recipients[index], index, guests, total })}
          </span>
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown p={8}>
        <SegmentedControl
          size="xs"
          fullWidth
          aria-label={t('whichRecipients')}
          value={having}
          data={FILTERS}
          onChange={(value) => dispatch(deskActions.searched({ having: value as Having }))}
        />
        <TextInput
          mt={8}
          aria-label={t('searchRecipients')}
          placeholder={t('nameAddressTown')}
          data-autofocus
          value={words}
          onChange={({ currentTarget: { value } }) => {
            setWords(value);
            ask(value);
          }}
          aria-activedescendant={recipients[active] ? `who-${recipients[active].id}` : undefined}
          aria-controls="who-list"
          role="combobox"
          aria-expanded
          onKeyDown={(event) => {
            const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
            if (by !== undefined) {
              event.preventDefault();
              setActive(Math.max(0, Math.min(recipients.length - 1, active + by)));
            } else if (event.key === 'Enter' && recipients[active]) {
              event.preventDefault();
              choose(active);
            }
          }}
        />
        <WhoFilter />
        <Rows active={active} onChoose={choose} />
        <Button
          variant="subtle"
          size="compact-xs"
          mt={6}
          onClick={() => {
            setOpened(false);
            setTesting(true);
          }}
        >
          {t('testRecipients2')}
        </Button>
        {total === 0 && <p className="quiet">{t('nobodyMatchesRemoveAFilterOr')}</p>}
      </Popover.Dropdown>
      {testing && <TestRecipients onClose={() => setTesting(false)} />}
    </Popover>
  );
}

/** All who fit: any number of them scroll, and those who are near are fetched. */
function Rows({ active, onChoose }: { active: number; onChoose: (at: number) => void }) {
  const dispatch = useAppDispatch();
  const { recipients, index, total, guests } = useDeskState(
    ...(['recipients', 'index', 'total', 'guests'] as const),
  );
  const scroll = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: recipients.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const shown = rows.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => {
    dispatch(deskActions.reached(last));
  }, [last, dispatch]);
  useEffect(() => {
    if (recipients.length > 0) rows.scrollToIndex(active);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only another active row is scrolled to
  }, [active]);
  if (total === 0) return null;
  return (
    <div
      ref={scroll}
      // It scrolls by keyboard as well; the arrows of the search walk it.
      tabIndex={0}
      role="group"
      aria-label={t('filter')}
      className={classes.list}
      style={{ height: Math.min(LIST_HEIGHT, recipients.length * ROW_HEIGHT) }}
    >
      <div
        role="listbox"
        id="who-list"
        aria-label={t('recipients')}
        style={{ height: rows.getTotalSize(), position: 'relative' }}
      >
        {shown.map(({ index: i, start }) => {
          const recipient = recipients[i];
          return (
            recipient && (
              <Row
                key={recipient.id}
                recipient={recipient}
                top={start}
                place={i < guests ? null : i - guests + 1}
                total={total}
                shown={i === index}
                active={i === active}
                onClick={() => onChoose(i)}
              />
            )
          );
        })}
      </div>
    </div>
  );
}

function Row({
  recipient,
  top,
  place,
  total,
  shown,
  active,
  onClick,
}: {
  recipient: Recipient;
  /** In pixels, in the list. */
  top: number;
  /** From 1; null for who is looked at beside the list. */
  place: number | null;
  total: number;
  shown: boolean;
  active: boolean;
  onClick: () => void;
}) {
  const { id, name, email, lines, orders } = recipient;
  return (
    <UnstyledButton
      id={`who-${id}`}
      role="option"
      aria-selected={active}
      {...(place !== null && { 'aria-posinset': place, 'aria-setsize': total })}
      tabIndex={-1}
      className={classes.row}
      style={{ position: 'absolute', top, height: ROW_HEIGHT, width: '100%' }}
      data-active={active || undefined}
      data-shown={shown || undefined}
      onClick={onClick}
    >
      <span>
        {name || t('noName')}
        {recipient.made_up && <span className="quiet"> {t('madeUp2')}</span>}
      </span>
      <span className="quiet">{email}</span>
      <span className="quiet figures">
        {[
          lines > 0 && t('linesInTheCart', { lines: counted(lines, 'line') }),
          orders > 0 && counted(orders, 'order'),
        ]
          .filter(Boolean)
          .join(', ')}
      </span>
    </UnstyledButton>
  );
}
