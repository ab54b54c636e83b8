import { useState } from 'react';
import { messageOf } from '../../app/ask';
import { occasionsApi } from '../../app/occasionsApi';
import { counted } from '../../parts/counted';
import { SeverityIcon } from '../../parts/Findings';
import { MailThumb } from '../../parts/mails/MailThumb';
import classes from './Occasions.module.css';

const MOST_FINDINGS = 4;

/** Before a mail to many goes: what the checks find over its audience, and mails as different as possible. */
export function Samples({ id }: { id: string }) {
  const { data, error } = occasionsApi.useBeforeSendingQuery(id);
  const [chosen, setChosen] = useState(0);
  if (error) return <p role="alert">{messageOf(error)}</p>;
  if (!data) return <p className="quiet">Filling it for everybody that it is for …</p>;
  const { findings, samples } = data;
  const shown = samples[chosen];
  return (
    <section aria-label="What goes out" className={classes.samples}>
      {findings.length === 0 ? (
        <p>The checks find nothing.</p>
      ) : (
        <ul>
          {findings.slice(0, MOST_FINDINGS).map(({ check, node, severity, message }, i) => (
            <li key={`${check} ${node} ${i}`}>
              <SeverityIcon severity={severity} /> {message}
            </li>
          ))}
          {findings.length > MOST_FINDINGS && (
            <li className="quiet">And {findings.length - MOST_FINDINGS} more, on the desk.</li>
          )}
        </ul>
      )}
      <ol aria-label="Samples">
        {samples.map(({ person, words, html }, i) => (
          <li key={person}>
            <button
              type="button"
              aria-pressed={i === chosen}
              aria-label={words}
              onClick={() => setChosen(i)}
            >
              <MailThumb mail={{ html }} />
            </button>
          </li>
        ))}
      </ol>
      {shown && (
        <p role="status">
          <strong>{shown.subject}</strong>
          <br />
          {shown.words}: {counted(shown.people, 'person', 'people')}
        </p>
      )}
    </section>
  );
}
