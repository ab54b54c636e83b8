import { Button } from '@mantine/core';
import type { OutboxState } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import { notifyOf } from '../../parts/notify';
import { useChangeMails, type MailChange } from './useChangeMails';

/** What can be done with mails of which states, and how it is told. */
const DEEDS: readonly {
  to: MailChange;
  label: string;
  of: readonly OutboxState[];
  done: string;
  missed: string;
}[] = [
  { to: 'approve', label: 'Approve', of: ['held'], done: 'approved', missed: 'no longer held' },
  {
    to: 'stop',
    label: 'Stop',
    of: ['held', 'waiting', 'ready'],
    done: 'stopped',
    missed: 'already sent',
  },
  {
    to: 'go_on',
    label: 'Resume',
    of: ['stopped'],
    done: 'resumed',
    missed: 'not stopped by hand',
  },
  {
    to: 'try_again',
    label: 'Try again',
    of: ['bounced'],
    done: 'tried again',
    missed: 'no longer bounced',
  },
  {
    to: 'count_as_sent',
    label: 'Count as sent',
    of: ['in_doubt'],
    done: 'counted as sent',
    missed: 'no longer in doubt',
  },
  {
    to: 'send_again',
    label: 'Send again',
    of: ['in_doubt'],
    done: 'sent again',
    missed: 'no longer in doubt',
  },
  {
    to: 'repeat',
    label: 'Send again',
    of: ['sent'],
    done: 'created to be sent again',
    missed: 'not sent before',
  },
];

interface Props {
  shop: string;
  /** Mails by id, with the state that they had when they were chosen. */
  chosen: ReadonlyMap<string, OutboxState>;
  onDone: () => void;
}

/** What can be done with the mails that are chosen. */
export function ChosenMails({ shop, chosen, onDone }: Props) {
  const { change, isChanging, dialog } = useChangeMails(shop);
  const apply = async ({ to, done, missed: why }: (typeof DEEDS)[number], ids: string[]) => {
    const changed = await change(to, { ids });
    if (changed === null) return;
    // Some may have gone on by themselves since they were chosen.
    const missed = ids.length - changed;
    if (missed > 0)
      notifyOf(
        `${counted(ids.length - missed, 'email')} ${done}`,
        `${counted(missed, 'email was', 'emails were')} not changed: ${why}.`,
      );
    onDone();
  };
  return (
    <>
      {dialog}
      <span role="status">{counted(chosen.size, 'email')} chosen</span>
      {DEEDS.map((deed) => {
        const ids = [...chosen].flatMap(([id, state]) => (deed.of.includes(state) ? [id] : []));
        return ids.length === 0 ? null : (
          <Button
            key={deed.to}
            size="compact-sm"
            variant={deed.to === 'approve' ? 'filled' : 'default'}
            loading={isChanging}
            onClick={() => void apply(deed, ids)}
          >
            {deed.label} {ids.length}
          </Button>
        );
      })}
      <Button size="compact-sm" variant="subtle" onClick={onDone}>
        Clear the selection
      </Button>
    </>
  );
}
