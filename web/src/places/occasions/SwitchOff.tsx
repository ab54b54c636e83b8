import { useState, type FormEvent } from 'react';
import { Radio } from '@mantine/core';
import type { StoredOccasion } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { Dialog } from '../../parts/Dialog';
import { FormFoot } from '../../parts/FormFoot';

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
  const what = isDeleting ? 'Delete' : 'Switch off';
  return (
    <Dialog opened onClose={onClose} title={`${what} “${occasion.name}”`} size={480}>
      <form onSubmit={(event) => void submit(event)}>
        {inside > 0 && (
          <p>
            {counted(inside, 'person is', 'people are')} inside and will get nothing more from it.
          </p>
        )}
        {emails === 0 ? (
          <p>None of its emails is waiting.</p>
        ) : isDeleting ? (
          <p>{counted(emails, 'email is', 'emails are')} waiting and will be stopped.</p>
        ) : (
          <Radio.Group
            label={`${counted(emails, 'email is', 'emails are')} waiting.`}
            value={waiting}
            onChange={(to) => setWaiting(to === 'send' ? 'send' : 'stop')}
          >
            <Radio mt={8} value="stop" label={emails === 1 ? 'Stop it' : 'Stop them'} />
            <Radio
              mt={8}
              value="send"
              label={emails === 1 ? 'Send it anyway' : 'Send them anyway'}
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
