import { compareTemplates, type Template } from '@carafe/core/template';
import classes from './Desk.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

const MOST_SHOWN = 12;

interface Props {
  mine: Template;
  theirs: Template;
  title: string;
  /** What is said of a part that only one of them has. */
  only: { mine: string; theirs: string };
}

/** What another version of a template has otherwise, part by part. */
export function Differences({ mine, theirs, title, only }: Props) {
  const found = compareTemplates(mine, theirs);
  if (found.length === 0) return <p className="quiet">{t('bothAreTheSame')}</p>;
  return (
    <section aria-label={t('whatDiffers')} className={classes.differences}>
      <h3>{title}</h3>
      <ul>
        {found.slice(0, MOST_SHOWN).map(({ what, label, mine: own, theirs: other }, i) => (
          <li key={i}>
            <strong>{label}</strong>{' '}
            {what === 'changed' ? (
              <>
                <del>{own}</del> → <ins>{other}</ins>
              </>
            ) : (
              <span className="quiet">{what === 'added' ? only.theirs : only.mine}</span>
            )}
          </li>
        ))}
      </ul>
      {found.length > MOST_SHOWN && (
        <p className="quiet">{t('andNumberMore', { number: found.length - MOST_SHOWN })}</p>
      )}
    </section>
  );
}
