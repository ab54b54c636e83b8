import { useState } from 'react';
import { Button, Select } from '@mantine/core';
import { ENDPOINTS } from '@carafe/contract';
import { largestFirst, mostDifferent, worstFirst } from '@carafe/core/variant';
import { ask, messageOf } from '../../../app/ask';
import { mailApi } from '../../../app/mailApi';
import { useAppSelector } from '../../../app/store';
import { counted } from '@carafe/core/words';
import { useLooked } from './looked';
import type { SurveySoFar } from '../../../parts/mails/surveyAll';
import classes from './Everyone.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const SOME = 6;
const MOST = 20;

/** Tests to oneself, one for each variant that is ticked, or for six: those that differ most, or of which most is missing. */
export function SendTests({ soFar }: { soFar: SurveySoFar }) {
  const { survey, of: template } = soFar;
  const id = useAppSelector((s) => s.desk.id) ?? '';
  const looked = useLooked(id);
  const { data } = mailApi.useMailSettingsQuery();
  const addresses = data?.settings.test_addresses ?? [];
  const [chosen, setChosen] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const to = chosen ?? addresses[0] ?? null;
  const ticked = largestFirst(survey.variants)
    .filter(({ key }) => looked.has(key))
    .slice(0, MOST);
  const send = async (people: readonly number[]) => {
    if (to === null) return;
    setBusy(true);
    setProblem(null);
    let sent = 0;
    try {
      for (const person of people) {
        setTold(`Sending ${sent + 1} of ${people.length} …`);
        await ask(ENDPOINTS.sendTest, { body: { template, person, to } });
        sent++;
      }
      setTold(`${counted(sent, 'test')} went to ${to}.`);
    } catch (error) {
      setTold(sent > 0 ? `${counted(sent, 'test')} went to ${to}.` : null);
      setProblem(messageOf(error));
    }
    setBusy(false);
  };
  const six = mostDifferent(survey.variants, SOME);
  const worst = worstFirst(survey.variants, survey.decisions).slice(0, SOME);
  return (
    <section aria-label={t('tests')} className={classes.tests}>
      <p className="quiet">{t('eachExactlyAsItsRecipientGets')}</p>
      <Select
        size="xs"
        label={t('to')}
        allowDeselect={false}
        data={addresses}
        value={to}
        onChange={setChosen}
      />
      <Button
        variant="default"
        size="compact-sm"
        disabled={ticked.length === 0 || busy}
        onClick={() => void send(ticked.map(({ person }) => person))}
      >
        {ticked.length === 0
          ? t('noneIsTickedYet')
          : t('sendTheNumberTicked', { number: ticked.length })}
      </Button>
      <Button
        variant="default"
        size="compact-sm"
        disabled={six.length === 0 || busy}
        onClick={() => void send(six.map(({ person }) => person))}
      >
        {t('sendTheNumberMostDifferent', { number: six.length })}
      </Button>
      <Button
        variant="default"
        size="compact-sm"
        disabled={worst.length === 0 || busy}
        onClick={() => void send(worst.map(({ person }) => person))}
      >
        {worst.length === 0
          ? t('nothingIsMissingInAny')
          : t('sendTheNumberWithMostMissing', { number: worst.length })}
      </Button>
      {told && <p role="status">{told}</p>}
      {problem && <p role="alert">{problem}</p>}
    </section>
  );
}
