import { Button } from '@mantine/core';
import type { OutboxState } from '@carafe/contract';
import { outboxApi } from '../../app/occasionsApi';
import { counted } from '@carafe/core/words';
import { notifyFailure, notifyOf } from '../../parts/notify';

type To = 'approve' | 'stop' | 'go_on' | 'try_again';
/** What can be done with mails of which states, and how it is told. */
const DEEDS: readonly {
  to: To;
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
    missed: 'gone already',
  },
  {
    to: 'go_on',
    label: 'Go on with',
    of: ['stopped'],
    done: 'gone on with',
    missed: 'not stopped by hand',
  },
  {
    to: 'try_again',
    label: 'Try once more',
    of: ['bounced'],
    done: 'tried once more',
    missed: 'no longer bounced',
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
  const [change, changing] = outboxApi.useChangeOutboxMutation();
  const apply = async ({ to, done, missed: why }: (typeof DEEDS)[number], ids: string[]) => {
    const { data, error } = await change({ shop, to, ids });
    if (error) {
      notifyFailure(error);
      return;
    }
    // Some may have gone on by themselves since they were chosen.
    const missed = ids.length - (data?.changed ?? ids.length);
    if (missed > 0)
      notifyOf(
        `${counted(ids.length - missed, 'mail')} ${done}`,
        `${counted(missed, 'mail')} could not be: ${why}.`,
      );
    onDone();
  };
  return (
    <>
      <span role="status">{counted(chosen.size, 'mail')} chosen</span>
      {DEEDS.map((deed) => {
        const ids = [...chosen].flatMap(([id, state]) => (deed.of.includes(state) ? [id] : []));
        return ids.length === 0 ? null : (
          <Button
            key={deed.to}
            size="compact-sm"
            variant={deed.to === 'approve' ? 'filled' : 'default'}
            loading={changing.isLoading}
            onClick={() => void apply(deed, ids)}
          >
            {deed.label} {ids.length}
          </Button>
        );
      })}
      <Button size="compact-sm" variant="subtle" onClick={onDone}>
        Choose none
      </Button>
    </>
  );
}
