import { useEffect, useRef, useState } from 'react';
import { Popover, ScrollArea, SegmentedControl, TextInput, UnstyledButton } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { IconSearch } from '@tabler/icons-react';
import type { Having, Recipient } from '@carafe/contract';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { counted } from '../../parts/counted';
import { deskActions } from './deskSlice';
import classes from './WhoBar.module.css';

/** So many are listed; the words narrow them down. */
const SHOWN = 200;

const FILTERS: { value: Having; label: string }[] = [
  { value: 'all', label: 'Everyone' },
  { value: 'cart', label: 'With a cart' },
  { value: 'order', label: 'With an order' },
];

/** Finds a recipient by words, among everyone or those who have what the mail reads. */
export function WhoSearch() {
  const dispatch = useAppDispatch();
  const { recipients, index, total, having, search } = useAppSelector((s) => s.desk);
  const [opened, setOpened] = useState(false);
  const [words, setWords] = useState(search);
  // The search can be set and cleared from elsewhere too.
  useEffect(() => setWords(search), [search]);
  const ask = useDebouncedCallback(
    (q: string) => dispatch(deskActions.searched({ search: q })),
    150,
  );
  const rows = recipients.slice(0, SHOWN);
  // The arrows begin at whoever is shown, and anew when others are listed.
  const [active, setActive] = useState(0);
  useEffect(() => setActive(Math.min(index, SHOWN - 1)), [index, opened, search, having]);
  const choose = (at: number) => {
    dispatch(deskActions.flipped(at));
    setOpened(false);
  };
  return (
    <Popover
      opened={opened}
      onChange={setOpened}
      width={380}
      position="bottom-start"
      shadow="sm"
      trapFocus
      returnFocus
    >
      <Popover.Target>
        <UnstyledButton
          className={classes.count}
          onClick={() => setOpened((o) => !o)}
          aria-label="Find a recipient"
        >
          <IconSearch size={14} />
          <span className="figures">
            {total === 0 ? '0' : (index + 1).toLocaleString('en-GB')} of{' '}
            {total.toLocaleString('en-GB')}
          </span>
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown p={8}>
        <SegmentedControl
          size="xs"
          fullWidth
          aria-label="Whom to list"
          value={having}
          data={FILTERS}
          onChange={(value) => dispatch(deskActions.searched({ having: value as Having }))}
        />
        <TextInput
          mt={8}
          aria-label="Search recipients"
          placeholder="Name, address, town …"
          data-autofocus
          value={words}
          onChange={({ currentTarget: { value } }) => {
            setWords(value);
            ask(value);
          }}
          aria-activedescendant={rows[active] ? `who-${rows[active].id}` : undefined}
          aria-controls="who-list"
          role="combobox"
          aria-expanded
          onKeyDown={(event) => {
            const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
            if (by !== undefined) {
              event.preventDefault();
              setActive(Math.max(0, Math.min(rows.length - 1, active + by)));
            } else if (event.key === 'Enter' && rows[active]) {
              event.preventDefault();
              choose(active);
            }
          }}
        />
        <ScrollArea.Autosize mah={300} mt={8} type="auto">
          <div role="listbox" id="who-list" aria-label="Recipients">
            {rows.map((recipient, i) => (
              <Row
                key={recipient.id}
                recipient={recipient}
                shown={i === index}
                active={i === active}
                onClick={() => choose(i)}
              />
            ))}
          </div>
          {total === 0 && <p className="quiet">Nobody fits. Try fewer words, or list everyone.</p>}
          {total > rows.length && (
            <p className="quiet">
              {(total - rows.length).toLocaleString('en-GB')} more: search to narrow it down.
            </p>
          )}
        </ScrollArea.Autosize>
      </Popover.Dropdown>
    </Popover>
  );
}

function Row({
  recipient,
  shown,
  active,
  onClick,
}: {
  recipient: Recipient;
  shown: boolean;
  active: boolean;
  onClick: () => void;
}) {
  const { id, name, email, lines, orders } = recipient;
  const row = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (active) row.current?.scrollIntoView({ block: 'nearest' });
  }, [active]);
  return (
    <UnstyledButton
      ref={row}
      id={`who-${id}`}
      role="option"
      aria-selected={active}
      tabIndex={-1}
      className={classes.row}
      data-active={active || undefined}
      data-shown={shown || undefined}
      onClick={onClick}
    >
      <span>{name || 'No name'}</span>
      <span className="quiet">{email}</span>
      <span className="quiet figures">
        {[
          lines > 0 && `${counted(lines, 'line')} in the cart`,
          orders > 0 && counted(orders, 'order'),
        ]
          .filter(Boolean)
          .join(', ')}
      </span>
    </UnstyledButton>
  );
}
