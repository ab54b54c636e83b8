import { Dialog } from '../../parts/Dialog';
import { allSteps, type Occasion, type SampleMail } from '@carafe/core/occasion';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { localise } from '../../parts/localise';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

/** A mail of a replay, as it would have been. */
export function PastMail({
  shop,
  sample,
  occasion,
  rehearsal,
  onClose,
}: {
  shop: string;
  sample: SampleMail;
  occasion: Occasion;
  /** Of a mail that is to come: which rehearsal made it up. */
  rehearsal: { days: number; seed: number; as_of: string } | undefined;
  onClose: () => void;
}) {
  const step = allSteps(occasion.steps).find(({ id }) => id === sample.step);
  const template = step?.kind === 'send' ? step.template : '';
  const { data, error } = occasionsApi.useReplayedMailQuery({
    shop,
    body: {
      ...{ template, person: sample.person, about: sample.about, past: sample.past },
      at: new Date(sample.at).toISOString(),
      ...(rehearsal && { rehearsal }),
    },
  });
  return (
    <Dialog
      opened
      onClose={onClose}
      title={data?.subject ?? (rehearsal ? t('aFutureEmail') : t('aPastEmail'))}
      size={720}
    >
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && (
        <iframe
          title={t('theEmailAsItWouldHave')}
          sandbox="allow-same-origin"
          className={classes.mail}
          srcDoc={localise(data.html)}
        />
      )}
    </Dialog>
  );
}
