import { Link } from 'react-router';
import { useState, type FormEvent } from 'react';
import { Dialog } from '../../parts/Dialog';
import type { StoredOccasion } from '@carafe/contract';
import { sendsOf } from '@carafe/core/occasion';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { counted, figure } from '@carafe/core/words';
import { FormFoot } from '../../parts/FormFoot';
import { Samples } from './Samples';

/** A time as a clock shows it, whatever the zone of whoever looks. */
const whenOf = new Intl.DateTimeFormat('en-GB', {
  ...{ dateStyle: 'full', timeStyle: 'short', timeZone: 'UTC' },
});

/** What switching on means, before it is done. */
export function SwitchOn({ stored, onClose }: { stored: StoredOccasion; onClose: () => void }) {
  const { id, version, occasion, published, on_since, problems } = stored;
  const { data, error } = occasionsApi.useBeforePublishingQuery(id);
  const [switchOn, switching] = occasionsApi.useSwitchOnMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const errors = problems.filter(({ severity }) => severity === 'error');
  const warnings = problems.filter(({ severity }) => severity === 'warning');
  const held = sendsOf(occasion).filter(({ mode }) => mode === 'held').length;
  const going = sendsOf(occasion).filter(({ mode }) => mode === 'on').length;
  const isByClock = occasion.start.kind === 'at_time' || occasion.start.kind === 'repeating';
  const inside = (data?.inside ?? []).reduce((sum, { people }) => sum + people, 0);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const { error: refused } = await switchOn({ id, version });
    if (refused) setProblem(messageOf(refused));
    else onClose();
  };
  return (
    <Dialog
      opened
      onClose={onClose}
      title={on_since ? 'Publish the draft' : 'Switch on'}
      size={560}
    >
      <form onSubmit={(event) => void submit(event)}>
        {error && <p role="alert">{messageOf(error)}</p>}
        {errors.length > 0 && (
          <ul style={{ color: 'var(--attention)', paddingLeft: 18 }}>
            {errors.map(({ message, template }) => (
              <li key={message}>
                {message} {template && <Link to={`/templates/${template}`}>Open the template</Link>}
              </li>
            ))}
          </ul>
        )}
        {warnings.length > 0 && (
          <ul style={{ paddingLeft: 18 }} aria-label="Warnings">
            {warnings.map(({ message }) => (
              <li key={message}>{message}</li>
            ))}
          </ul>
        )}
        <ul style={{ paddingLeft: 18, lineHeight: 1.6 }}>
          <li>
            {going === 0
              ? 'Nothing is sent automatically.'
              : `Emails of ${counted(going, 'step')} are sent automatically.`}
            {held > 0 &&
              ` Emails of ${counted(held, 'step')} wait in the outbox for your approval.`}
          </li>
          {data?.audience && (
            <li>
              It is for {counted(data.audience.people, 'person', 'people')}, of whom{' '}
              {figure(data.audience.agreed)} agreed to marketing.{' '}
              {occasion.start.kind === 'repeating' ? 'It is first sent on' : 'It begins on'}{' '}
              {whenOf.format(new Date(`${data.audience.wall}Z`))}, by{' '}
              {data.audience.clock === 'shop' ? 'the shop’s clock' : 'each person’s own clock'}.
            </li>
          )}
          {(data?.audience?.strangers ?? 0) > 0 && (
            <li>
              {data?.audience?.strangers === 1
                ? 'One of the addresses belongs to nobody in this shop. Nothing is sent to it.'
                : `${figure(data?.audience?.strangers ?? 0)} of the addresses belong to nobody in this shop. Nothing is sent to them.`}
            </li>
          )}
          {isByClock && !data && !error && <li>Counting who gets it …</li>}
          {!isByClock && (
            <li>
              {occasion.start.kind === 'by_hand'
                ? 'Nobody enters automatically. Choose people under “Send by hand”.'
                : 'Nothing that happened before now starts it. The replay shows what would have happened.'}
            </li>
          )}
          {published !== null && inside > 0 && (
            <li>
              {counted(inside, 'person', 'people')} {inside === 1 ? 'is' : 'are'} half way, and{' '}
              {inside === 1 ? 'goes' : 'go'} on with the version they entered with.
            </li>
          )}
        </ul>
        {isByClock && <Samples id={id} />}
        <FormFoot
          problem={problem}
          submit={on_since ? 'Publish' : 'Switch on'}
          busy={switching.isLoading}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
