import type { PicksOfPerson } from '@carafe/contract';
import classes from './PickedList.module.css';

/** What a rule picked for somebody: each with its reason, its step and figure; and what it passed over, and why. */
export function PickedList({ picks, passed }: Pick<PicksOfPerson, 'picks' | 'passed'>) {
  return (
    <>
      <ol className={classes.picked} aria-label="Picked">
        {picks.map(({ sku, name, step, figure, reason }) => (
          <li key={sku}>
            <strong>{name}</strong>
            <span>{reason}</span>
            <span className="quiet">
              Step {step + 1}: {figure}
            </span>
          </li>
        ))}
      </ol>
      {passed.length > 0 && (
        <>
          <div className="label">Passed over</div>
          <ul className={classes.passed} aria-label="Passed over">
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
