import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

const SIZE = 190;
const EDGE = 22;

/** Lorenz's curve: how much of all picks the products have that are shown least, against equal parts. */
export function Lorenz({
  curve,
  gini,
}: {
  curve: readonly (readonly [number, number])[];
  gini: number;
}) {
  const x = scaleLinear([0, 1], [EDGE, SIZE - 4]);
  const y = scaleLinear([0, 1], [SIZE - EDGE, 4]);
  const path = line<readonly [number, number]>(
    ([products]) => x(products),
    ([, picks]) => y(picks),
  );
  const equal = path([
    [0, 0],
    [1, 1],
  ]);
  return (
    <figure className={classes.lorenz}>
      <svg
        width={SIZE}
        height={SIZE}
        role="img"
        aria-label={t('howUnevenlyProductsAreShownGini', { gini: gini.toFixed(2) })}
      >
        <path d={`M${EDGE},4V${SIZE - EDGE}H${SIZE - 4}`} className={classes.axis} />
        <path d={equal ?? ''} className={classes.equal} />
        <path d={path(curve) ?? ''} className={classes.curve} />
        <text x={EDGE} y={SIZE - 6}>
          {t('productsLeastShownFirst')}
        </text>
        <text transform={`translate(${EDGE - 8} ${SIZE - EDGE}) rotate(-90)`}>
          {t('shareOfPicks')}
        </text>
      </svg>
      <figcaption>
        {t('unevenness')} <strong>{gini.toFixed(2)}</strong>{' '}
        <span className="quiet">{t('n0AllEquallyOften1Only')}</span>
      </figcaption>
    </figure>
  );
}
