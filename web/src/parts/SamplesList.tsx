import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import { parsedFormula } from '@carafe/core/formula';
import { api } from '../app/api';
import { messageOf } from '../app/ask';
import { figure } from '@carafe/core/words';
import classes from './parts.module.css';
import { wordsOf } from '../words';

const t = wordsOf('parts');

const PAUSE_MS = 400;

/** What a formula prints for three people, a blank one among them, and how many would see a gap. */
export function SamplesList({ shop, formula }: { shop: string; formula: string }) {
  const [settled] = useDebouncedValue(formula.trim(), PAUSE_MS);
  const isAsked = settled !== '' && parsedFormula(settled).ok;
  const { data, error, isFetching } = api.useSamplesQuery(
    isAsked ? { shop, formula: settled } : skipToken,
  );
  if (!isAsked) return null;
  if (error) return <p role="alert">{messageOf(error)}</p>;
  if (!data) return <p className="quiet">{t('checkingEverybody')}</p>;
  const { of, blank, people } = data;
  return (
    <div aria-busy={isFetching} data-testid="samples">
      <ul className={classes.samples}>
        {people.map(({ recipient, text }) => (
          <li key={recipient.id}>
            <span className="quiet">{recipient.name || recipient.email}</span>
            <span>{text.trim() === '' ? <em>{t('blank')}</em> : text}</span>
          </li>
        ))}
      </ul>
      <p className={blank > 0 ? classes.gap : 'quiet'}>
        {blank === 0
          ? t('noneOfOfSeesABlank', { of: figure(of) })
          : t('blankOfOfWhichABlank', {
              blank: figure(blank),
              of: figure(of),
              which: of === 1 ? t('personSees') : t('peopleSee'),
            })}
      </p>
    </div>
  );
}
