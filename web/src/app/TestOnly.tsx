import { useState } from 'react';
import { Menu, UnstyledButton } from '@mantine/core';
import { IconClock, IconInbox, IconMailForward } from '@tabler/icons-react';
import { Link } from 'react-router';
import { mailApi } from './mailApi';
import { MoveClock } from './MoveClock';
import { outboxApi } from './occasionsApi';
import classes from './Shell.module.css';
import { wordsOf } from '../words';

const t = wordsOf('app');

const AHEAD: [minutes: number, unit: string][] = [
  [1440, 'd'],
  [60, 'h'],
  [1, 'min'],
];

/** Says on every screen that mails go nowhere but to the stand-in mailbox, and how far the clock was moved; it is moved here. */
export function TestOnly() {
  const { data } = mailApi.useMailSettingsQuery();
  const { data: clock } = outboxApi.useClockQuery();
  const [moving, setMoving] = useState(false);
  if (!data?.settings.test_only) return null;
  const moved = clock?.moved ?? 0;
  const [minutes, unit] = AHEAD.find(([least]) => moved >= least) ?? [1, 'min'];
  return (
    <>
      <Menu position="bottom-end" width={280}>
        <Menu.Target>
          <UnstyledButton className={classes.testOnly}>
            {t('testOnly')}
            {moved > 0 && t('clockMovedUnit', { moved: Math.floor(moved / minutes), unit })}
          </UnstyledButton>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Label style={{ whiteSpace: 'normal' }}>
            {t('everythingThatIsSentGoesTo')}
          </Menu.Label>
          <Menu.Item leftSection={<IconClock size={15} />} onClick={() => setMoving(true)}>
            {t('moveTheClock')}
          </Menu.Item>
          <Menu.Item component={Link} to="/mailbox" leftSection={<IconInbox size={15} />}>
            {t('seeWhatArrived')}
          </Menu.Item>
          <Menu.Item component={Link} to="/outbox" leftSection={<IconMailForward size={15} />}>
            {t('seeTheOutbox')}
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      {moving && <MoveClock onClose={() => setMoving(false)} />}
    </>
  );
}
