import { useEffect, useState } from 'react';
import { Popover, ScrollArea, SegmentedControl, TextInput, UnstyledButton } from '@mantine/core';
import { useDebouncedCallback } from '@mantine/hooks';
import { IconSearch } from '@tabler/icons-react';
import type { Having, Recipient } from '@carafe/contract';
import { useAppDispatch, useAppSelector } from '../../app/store';
import { deskActions } from './deskSlice';
import classes from './WhoBar.module.css';

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
          onKeyDown={(event) => {
            if (event.key === 'Enter' && recipients.length > 0) choose(0);
          }}
        />
        <ScrollArea.Autosize mah={300} mt={8} type="auto">
          {recipients.slice(0, 60).map((recipient, i) => (
            <Row
              key={recipient.id}
              recipient={recipient}
              active={i === index}
              onClick={() => choose(i)}
            />
          ))}
          {total === 0 && <p className="quiet">Nobody fits. Try fewer words, or list everyone.</p>}
          {total > 60 && (
            <p className="quiet">
              {(total - 60).toLocaleString('en-GB')} more: search to narrow it down.
            </p>
          )}
        </ScrollArea.Autosize>
      </Popover.Dropdown>
    </Popover>
  );
}

function Row({
  recipient,
  active,
  onClick,
}: {
  recipient: Recipient;
  active: boolean;
  onClick: () => void;
}) {
  const { name, email, lines, orders } = recipient;
  return (
    <UnstyledButton className={classes.row} data-active={active || undefined} onClick={onClick}>
      <span>{name || 'No name'}</span>
      <span className="quiet">{email}</span>
      <span className="quiet figures">
        {lines > 0 ? `${lines} in cart` : ''} {orders > 0 ? `${orders} ordered` : ''}
      </span>
    </UnstyledButton>
  );
}
