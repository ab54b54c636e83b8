import { scaleBand, scaleLinear } from 'd3-scale';
import { dayIn } from '@carafe/core/formula';
import type { OccasionFigures } from '@carafe/core/occasion';
import { figure } from '@carafe/core/words';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

const WIDTH = 560;
const HEIGHT = 150;
const EDGE = { left: 34, bottom: 18, top: 6 };
/** Shades of one colour, told apart by their pattern as well. */
const SHADES = [1, 0.62, 0.36, 0.2];
const dayOf = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const DAY = 86_400_000;

interface Props {
  rows: OccasionFigures['days'];
  from: string;
  /** The time zone whose days they are. */
  zone: string;
  days: number;
  nameOf: (occasion: string, step: string) => string;
}

/** How many mails each day, by step, one on the other. */
export function MailsADay({ rows, from, zone, days, nameOf }: Props) {
  const begin = dayIn(new Date(from), zone).getTime();
  const all = Array.from({ length: days + 1 }, (_, day) => day);
  const x = scaleBand(all, [EDGE.left, WIDTH]).padding(0.15);
  const sums = all.map((day) => rows.reduce((sum, { counts }) => sum + (counts[day] ?? 0), 0));
  const y = scaleLinear([0, Math.max(1, ...sums)], [HEIGHT - EDGE.bottom, EDGE.top]).nice();
  const ticks = y.ticks(3).filter(Number.isInteger);
  const total = sums.reduce((a, b) => a + b, 0);
  return (
    <figure className={classes.chart}>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={t('emailsPerDayTotalInDays', { total: figure(total), days })}
      >
        {ticks.map((tick) => (
          <g key={tick}>
            <line
              className={classes.gridLine}
              x1={EDGE.left}
              x2={WIDTH}
              y1={y(tick)}
              y2={y(tick)}
            />
            <text x={EDGE.left - 6} y={y(tick) + 4} textAnchor="end">
              {figure(tick)}
            </text>
          </g>
        ))}
        {all.map((day) => {
          let sum = 0;
          return rows.map(({ occasion, step, counts }, i) => {
            const n = counts[day] ?? 0;
            const from_ = sum;
            sum += n;
            return n === 0 ? null : (
              <rect
                key={`${day} ${occasion} ${step}`}
                x={x(day)}
                width={x.bandwidth()}
                y={y(sum)}
                height={Math.max(0, y(from_) - y(sum))}
                className={classes.dayBar}
                opacity={SHADES[i % SHADES.length]}
              >
                <title>{`${dayOf.format(begin + day * DAY)}: ${figure(n)}, ${nameOf(occasion, step)}`}</title>
              </rect>
            );
          });
        })}
        {[0, Math.floor(days / 2), days].map((day) => (
          <text
            key={day}
            x={(x(day) ?? 0) + x.bandwidth() / 2}
            y={HEIGHT - 4}
            textAnchor={day === 0 ? 'start' : day === days ? 'end' : 'middle'}
          >
            {dayOf.format(begin + day * DAY)}
          </text>
        ))}
      </svg>
      <figcaption>
        {rows.map(({ occasion, step, counts }, i) => (
          <span key={`${occasion} ${step}`} className={classes.key}>
            <span style={{ opacity: SHADES[i % SHADES.length] }} aria-hidden />
            {nameOf(occasion, step)}{' '}
            <span className="figures">{figure(counts.reduce((a, b) => a + b, 0))}</span>
          </span>
        ))}
      </figcaption>
    </figure>
  );
}
