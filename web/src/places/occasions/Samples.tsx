import { useState } from 'react';
import { nodeNames, type Template } from '@carafe/core/template';
import { sayVariant, usualBits } from '@carafe/core/variant';
import { counted, figure } from '@carafe/core/words';
import { SeverityIcon } from '../../parts/Findings';
import { useFilledDraft } from '../../parts/mails/filledDraft';
import { MailThumb } from '../../parts/mails/MailThumb';
import { useSending, type SendingSoFar } from './useSending';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

const MOST_FINDINGS = 4;

/** Before a mail to many goes: what the checks find over its audience, and mails as different as possible. */
export function Samples({ id }: { id: string }) {
  const { sending, isNothing, problem } = useSending(id);
  if (problem !== null) return <p role="alert">{problem}</p>;
  if (isNothing) return <p className="quiet">{t('itDoesNotSendAnythingYet')}</p>;
  if (!sending) return <p className="quiet">{t('fillingItForTheFirstRecipients')}</p>;
  return (
    <section aria-label={t('whatGoesOut')} className={classes.samples}>
      <Found sending={sending} />
      <Mails sending={sending} />
    </section>
  );
}

function Found({ sending: { soFar, findings } }: { sending: SendingSoFar }) {
  if (!findings)
    return (
      <p className="quiet" role="status">
        {t('fillingItForEverybodyLookedOf', {
          looked: figure(soFar.looked),
          people: counted(soFar.people, 'person', 'people'),
        })}
      </p>
    );
  if (findings.length === 0) return <p>{t('theChecksFindNothing')}</p>;
  return (
    <ul>
      {findings.slice(0, MOST_FINDINGS).map(({ check, node, severity, message }, i) => (
        <li key={`${check} ${node} ${i}`}>
          <SeverityIcon severity={severity} /> {message}
        </li>
      ))}
      {findings.length > MOST_FINDINGS && (
        <li className="quiet">
          {t('andNumberMoreInTheEditor', { number: findings.length - MOST_FINDINGS })}
        </li>
      )}
    </ul>
  );
}

function Mails({ sending: { template, soFar, samples } }: { sending: SendingSoFar }) {
  const { survey } = soFar;
  const [chosen, setChosen] = useState<number | null>(null);
  const usual = usualBits(survey.variants, survey.decisions.length);
  const nameOf = nodeNames(template);
  const words = (one: SendingSoFar['samples'][number]) =>
    sayVariant(one, usual, survey.decisions, nameOf);
  // Whoever was chosen may stand for nothing any more when everybody was looked at.
  const shown = samples.find(({ person }) => person === chosen) ?? samples[0];
  if (!shown) return soFar.running ? null : <p>{t('nobodyWouldGetIt')}</p>;
  return (
    <>
      <ol aria-label={t('samples')}>
        {samples.map((one) => (
          <li key={one.person}>
            <button
              type="button"
              aria-pressed={one === shown}
              aria-label={words(one)}
              onClick={() => setChosen(one.person)}
            >
              <Sample template={template} person={one.person} />
            </button>
          </li>
        ))}
      </ol>
      <p role="status">
        <Subject key={shown.person} template={template} person={shown.person} />
        <br />
        {survey.variants.length > 1 ? words(shown) : t('everybodyGetsTheSame')}:{' '}
        {counted(peopleLike(survey.variants, shown.key), 'person', 'people')}
        {soFar.running && t('soFar')}
      </p>
    </>
  );
}

const peopleLike = (variants: SendingSoFar['samples'], key: string): number =>
  variants.find((one) => one.key === key)?.people ?? 0;

function Sample({ template, person }: { template: Template; person: number }) {
  return <MailThumb {...useFilledDraft(template, person)} />;
}

function Subject({ template, person }: { template: Template; person: number }) {
  const { mail } = useFilledDraft(template, person);
  return <strong>{mail?.subject ?? '…'}</strong>;
}
