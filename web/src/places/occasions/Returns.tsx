import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import type { OccasionFigures } from '@carafe/core/occasion';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

const WIDTH = 260;
const HEIGHT = 150;
const EDGE = { left: 34, bottom: 18, top: 6 };
const TICKS = [0, 12, 24, 48, 72];

/** How long people take to come back to a cart by themselves: so many of a hundred have ordered within so many hours. */
export function Returns({ returns: { hours, carts } }: { returns: OccasionFigures['returns'] }) {
  let sum = 0;
  const points = hours.map((n, hour): [number, number] => {
    sum += n;
    return [hour + 1, carts === 0 ? 0 : (100 * sum) / carts];
  });
  const most = Math.max(10, points.at(-1)?.[1] ?? 0);
  const x = scaleLinear([0, hours.length], [EDGE.left, WIDTH - 4]);
  const y = scaleLinear([0, most], [HEIGHT - EDGE.bottom, EDGE.top]).nice();
  const path = line<[number, number]>(
    ([hour]) => x(hour),
    ([, share]) => y(share),
  )([[0, 0], ...points]);
  const at = (hour: number) => Math.round(points[hour - 1]?.[1] ?? 0);
  return (
    <figure className={classes.chart}>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={t('of100CartsAtAreOrdered', { at: at(1), at2: at(24) })}
      >
        {y.ticks(3).map((tick) => (
          <g key={tick}>
            <line
              className={classes.gridLine}
              x1={EDGE.left}
              x2={WIDTH}
              y1={y(tick)}
              y2={y(tick)}
            />
            <text x={EDGE.left - 6} y={y(tick) + 4} textAnchor="end">
              {tick} %
            </text>
          </g>
        ))}
        <path d={path ?? ''} className={classes.curve} />
        {TICKS.map((hour) => (
          <text
            key={hour}
            x={x(hour)}
            y={HEIGHT - 4}
            textAnchor={hour === 0 ? 'start' : hour === 72 ? 'end' : 'middle'}
          >
            {hour} h
          </text>
        ))}
      </svg>
      <figcaption>
        {t('of100Carts')} {at(1)} {t('areOrderedWithinAnHour')} {at(4)} {t('withinFour')} {at(24)}{' '}
        {t('withinADayWithoutAnyEmail')}
      </figcaption>
    </figure>
  );
}
