import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import classes from './Recommendations.module.css';

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
        aria-label={`How unevenly products are shown: ${gini.toFixed(2)}, where 0 means all equally often and 1 means only one product (Gini coefficient)`}
      >
        <path d={`M${EDGE},4V${SIZE - EDGE}H${SIZE - 4}`} className={classes.axis} />
        <path d={equal ?? ''} className={classes.equal} />
        <path d={path(curve) ?? ''} className={classes.curve} />
        <text x={EDGE} y={SIZE - 6}>
          products, least shown first
        </text>
        <text transform={`translate(${EDGE - 8} ${SIZE - EDGE}) rotate(-90)`}>share of picks</text>
      </svg>
      <figcaption>
        Unevenness <strong>{gini.toFixed(2)}</strong>{' '}
        <span className="quiet">0: all equally often, 1: only one (Gini coefficient)</span>
      </figcaption>
    </figure>
  );
}
