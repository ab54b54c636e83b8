import { useState, type FormEvent } from 'react';
import { Radio } from '@mantine/core';
import type { StoredOccasion } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { Dialog } from '../../parts/Dialog';
import { FormFoot } from '../../parts/FormFoot';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

/** How many emails of an occasion are created and not sent. */
export const waitingOf = ({ steps }: Pick<StoredOccasion, 'steps'>): number =>
  steps.reduce(
    (sum, { mails }) =>
      sum + (mails['waiting'] ?? 0) + (mails['held'] ?? 0) + (mails['ready'] ?? 0),
    0,
  );

/** Switching off, or deleting: what becomes of the emails that wait is asked before. */
export function SwitchOff({
  stored,
  isDeleting = false,
  onClose,
}: {
  stored: StoredOccasion;
  isDeleting?: boolean;
  onClose: () => void;
}) {
  const { id, occasion, inside } = stored;
  const [switchOff, switching] = occasionsApi.useSwitchOffMutation();
  const [remove, removing] = occasionsApi.useDeleteOccasionMutation();
  const [waiting, setWaiting] = useState<'stop' | 'send'>('stop');
  const [problem, setProblem] = useState<string | null>(null);
  const emails = waitingOf(stored);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const { error } = isDeleting ? await remove(id) : await switchOff({ id, waiting });
    if (error) setProblem(messageOf(error));
    else onClose();
  };
  const what = isDeleting ? 'Delete' : t('switchOff');
  return (
    <Dialog opened onClose={onClose} title={`${what} “${occasion.name}”`} size={480}>
      <form onSubmit={(event) => void submit(event)}>
        {inside > 0 && (
          <p>
            {t('isInsideAndWillGetNothing', { is: counted(inside, 'person is', 'people are') })}
          </p>
        )}
        {emails === 0 ? (
          <p>{t('noneOfItsEmailsIsWaiting')}</p>
        ) : isDeleting ? (
          <p>{t('isWaitingAndWillBeStopped', { is: counted(emails, 'email is', 'emails are') })}</p>
        ) : (
          <Radio.Group
            label={t('isWaiting', { is: counted(emails, 'email is', 'emails are') })}
            value={waiting}
            onChange={(to) => setWaiting(to === 'send' ? 'send' : 'stop')}
          >
            <Radio mt={8} value="stop" label={emails === 1 ? t('stopIt') : t('stopThem')} />
            <Radio
              mt={8}
              value="send"
              label={emails === 1 ? t('sendItAnyway') : t('sendThemAnyway')}
            />
          </Radio.Group>
        )}
        <FormFoot
          problem={problem}
          submit={what}
          busy={switching.isLoading || removing.isLoading}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
