import type { PicksOfPerson } from '@carafe/contract';
import classes from './PickedList.module.css';
import { wordsOf } from '../words';

const t = wordsOf('parts');

/** What a rule picked for somebody: each with its reason, its step and figure; and what it passed over, and why. */
export function PickedList({ picks, passed }: Pick<PicksOfPerson, 'picks' | 'passed'>) {
  return (
    <>
      <ol className={classes.picked} aria-label={t('picked')}>
        {picks.map(({ sku, name, step, figure, reason }) => (
          <li key={sku}>
            <strong>{name}</strong>
            <span>{reason}</span>
            <span className="quiet">{t('stepStepFigure', { step: step + 1, figure })}</span>
          </li>
        ))}
      </ol>
      {passed.length > 0 && (
        <>
          <div className="label">{t('passedOver')}</div>
          <ul className={classes.passed} aria-label={t('passedOver')}>
            {passed.map(({ sku, name, why }) => (
              <li key={sku}>
                {name} <span className="quiet">{why}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
