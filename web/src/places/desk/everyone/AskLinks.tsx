import { useState } from 'react';
import { Button } from '@mantine/core';
import { ENDPOINTS, type LinkAnswer } from '@carafe/contract';
import { ask, messageOf } from '../../../app/ask';
import { useDeskState } from '../../../app/store';
import { counted } from '@carafe/core/words';
import { SeverityIcon } from '../../../parts/Findings';
import classes from './Everyone.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** Asks for the links and pictures of the mail on the canvas: on demand, since it asks others’ servers. */
export function AskLinks() {
  const { template, recipients, index } = useDeskState('template', 'recipients', 'index');
  const [answers, setAnswers] = useState<LinkAnswer[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const person = recipients[index];
  const start = async () => {
    if (!template || !person) return;
    setBusy(true);
    setProblem(null);
    try {
      const { links } = await ask(ENDPOINTS.askLinks, {
        params: { shop: template.shop },
        body: { template, person: person.id },
      });
      setAnswers(links);
    } catch (error) {
      setProblem(messageOf(error));
    }
    setBusy(false);
  };
  const bad = answers?.filter(({ ok }) => !ok) ?? [];
  return (
    <div className={classes.links}>
      <Button
        variant="default"
        size="compact-sm"
        loading={busy}
        disabled={!person}
        onClick={() => void start()}
      >
        {t('askForItsLinksAndPictures')}
      </Button>
      {problem && <p role="alert">{problem}</p>}
      {answers && (
        <p className="quiet" role="status">
          {bad.length === 0
            ? t('allAddressOfThisEmailAnswer', {
                address: counted(answers.length, 'address', 'addresses'),
              })
            : t('addressOfNumberDoNotAnswer', {
                address: counted(bad.length, 'address', 'addresses'),
                number: answers.length,
              })}
        </p>
      )}
      <ul className={classes.findings}>
        {bad.map(({ address, message }) => (
          <li key={address} className={classes.finding}>
            <SeverityIcon severity="error" />
            <span>
              {message} <span className="quiet">{address}</span>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
