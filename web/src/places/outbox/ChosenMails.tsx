import { Button } from '@mantine/core';
import type { OutboxState } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import { notifyOf } from '../../parts/notify';
import { useChangeMails, type MailChange } from './useChangeMails';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

/** What can be done with mails of which states, and how it is told. */
const DEEDS: readonly {
  to: MailChange;
  label: string;
  of: readonly OutboxState[];
  done: string;
  missed: string;
}[] = [
  {
    to: 'approve',
    label: t('approve'),
    of: ['held'],
    done: t('approved'),
    missed: t('noLongerHeld'),
  },
  {
    to: 'stop',
    label: t('stop'),
    of: ['held', 'waiting', 'ready'],
    done: t('stopped'),
    missed: t('alreadySent'),
  },
  {
    to: 'go_on',
    label: t('resume'),
    of: ['stopped'],
    done: t('resumed'),
    missed: t('notStoppedByHand'),
  },
  {
    to: 'try_again',
    label: t('tryAgain'),
    of: ['bounced'],
    done: t('triedAgain'),
    missed: t('noLongerBounced'),
  },
  {
    to: 'count_as_sent',
    label: t('countAsSent'),
    of: ['in_doubt'],
    done: t('countedAsSent'),
    missed: t('noLongerInDoubt'),
  },
  {
    to: 'send_again',
    label: t('sendAgain'),
    of: ['in_doubt'],
    done: t('sentAgain'),
    missed: t('noLongerInDoubt'),
  },
  {
    to: 'repeat',
    label: t('sendAgain'),
    of: ['sent'],
    done: t('createdToBeSentAgain'),
    missed: t('notSentBefore'),
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
        t('wasNotChangedWhy', { was: counted(missed, 'email was', 'emails were'), why }),
      );
    onDone();
  };
  return (
    <>
      {dialog}
      <span role="status">{t('emailsChosen', { emails: counted(chosen.size, 'email') })}</span>
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
        {t('clearTheSelection')}
      </Button>
    </>
  );
}
