import { Tooltip } from '@mantine/core';
import { Link } from 'react-router';
import { mailApi } from './mailApi';
import { outboxApi } from './occasionsApi';
import classes from './Shell.module.css';

/** Says on every screen that mails go nowhere but to the stand-in mailbox, and how far the clock was moved. */
export function TestOnly() {
  const { data } = mailApi.useMailSettingsQuery();
  const { data: clock } = outboxApi.useClockQuery();
  if (!data?.settings.test_only) return null;
  const moved = clock?.moved ?? 0;
  const ahead =
    moved >= 1440
      ? `${Math.floor(moved / 1440)} d`
      : moved >= 60
        ? `${Math.floor(moved / 60)} h`
        : `${moved} min`;
  return (
    <Tooltip label="Test-only: everything that is sent goes to the stand-in mailbox and to nobody else.">
      <Link to="/outbox" className={classes.testOnly}>
        Test-only{moved > 0 && `, clock +${ahead}`}
      </Link>
    </Tooltip>
  );
}
