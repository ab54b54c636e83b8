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
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

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
      title={on_since ? t('publishTheDraft') : t('switchOn')}
      size={560}
    >
      <form onSubmit={(event) => void submit(event)}>
        {error && <p role="alert">{messageOf(error)}</p>}
        {errors.length > 0 && (
          <ul style={{ color: 'var(--attention)', paddingLeft: 18 }}>
            {errors.map(({ message, template }) => (
              <li key={message}>
                {message}{' '}
                {template && <Link to={`/templates/${template}`}>{t('openTheTemplate')}</Link>}
              </li>
            ))}
          </ul>
        )}
        {warnings.length > 0 && (
          <ul style={{ paddingLeft: 18 }} aria-label={t('warnings')}>
            {warnings.map(({ message }) => (
              <li key={message}>{message}</li>
            ))}
          </ul>
        )}
        <ul style={{ paddingLeft: 18, lineHeight: 1.6 }}>
          <li>
            {going === 0
              ? t('nothingIsSentAutomatically')
              : t('emailsOfStepsAreSentAutomatically', { steps: counted(going, 'step') })}
            {held > 0 && t('emailsOfStepsWaitInThe', { steps: counted(held, 'step') })}
          </li>
          {data?.audience && (
            <li>
              {t('itIsFor')} {counted(data.audience.people, 'person', 'people')}
              {t('ofWhom')} {figure(data.audience.agreed)} {t('agreedToMarketing')}{' '}
              {occasion.start.kind === 'repeating' ? t('itIsFirstSentOn') : t('itBeginsOn')}{' '}
              {whenOf.format(new Date(`${data.audience.wall}Z`))}
              {t('by')}{' '}
              {data.audience.clock === 'shop' ? t('theShopsClock') : t('eachPersonsOwnClock')}.
            </li>
          )}
          {(data?.audience?.strangers ?? 0) > 0 && (
            <li>
              {data?.audience?.strangers === 1
                ? t('oneOfTheAddressesBelongsTo')
                : t('strangersOfTheAddressesBelongTo', {
                    strangers: figure(data?.audience?.strangers ?? 0),
                  })}
            </li>
          )}
          {isByClock && !data && !error && <li>{t('countingWhoGetsIt')}</li>}
          {!isByClock && (
            <li>
              {occasion.start.kind === 'by_hand'
                ? t('nobodyEntersAutomaticallyChoosePeopleUnder')
                : t('nothingThatHappenedBeforeNowStarts')}
            </li>
          )}
          {published !== null && inside > 0 && (
            <li>
              {t('peopleWhichHalfWayAndWhich2', {
                people: counted(inside, 'person', 'people'),
                which: inside === 1 ? t('is') : t('are'),
                which2: inside === 1 ? t('goes') : t('go'),
              })}
            </li>
          )}
        </ul>
        {isByClock && <Samples id={id} />}
        <FormFoot
          problem={problem}
          submit={on_since ? t('publish') : t('switchOn')}
          busy={switching.isLoading}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
