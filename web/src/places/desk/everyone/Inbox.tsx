import { useMemo, useState } from 'react';
import { SegmentedControl } from '@mantine/core';
import { mostDifferent } from '@carafe/core/variant';
import { useFilledDraft } from '../../../parts/mails/filledDraft';
import { useLookAt } from './useLookAt';
import type { SurveySoFar } from '../../../parts/mails/surveyAll';
import classes from './Everyone.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const ROWS = 6;

/** The row of a list of mails, for variants that differ as much as possible. */
export function Inbox({ soFar }: { soFar: SurveySoFar }) {
  const [on, setOn] = useState<'phone' | 'desktop'>('phone');
  const { survey, of: template } = soFar;
  const rows = useMemo(() => mostDifferent(survey.variants, ROWS), [survey]);
  return (
    <section aria-label={t('inTheListOfEmails')}>
      <SegmentedControl
        size="xs"
        aria-label={t('shownOn')}
        value={on}
        data={[
          { value: 'phone', label: t('onAPhone') },
          { value: 'desktop', label: t('onADesktop') },
        ]}
        onChange={(value) => setOn(value as typeof on)}
      />
      <ol className={classes.inbox} data-on={on}>
        {rows.map(({ key, person }) => (
          <InboxRow key={key} template={template} person={person} />
        ))}
      </ol>
    </section>
  );
}

function InboxRow({ template, person }: { template: SurveySoFar['of']; person: number }) {
  const { mail, problem } = useFilledDraft(template, person);
  const lookAt = useLookAt();
  return (
    <li>
      <button type="button" onClick={() => lookAt(person)}>
        <strong>{mail ? mail.from || t('noSenderName') : (problem ?? '…')}</strong>
        <span className={classes.subject}>{mail ? mail.subject || t('noSubject') : ''}</span>
        <span className={classes.preview}>{mail?.preview_text}</span>
      </button>
    </li>
  );
}
