import classes from './Recommendations.module.css';

interface Props {
  /** What is there, what of it falls through, and what there could be at most. */
  part: number;
  through?: number;
  of: number;
  words: string;
}

/** How much of the pool is there at a place of the sieve: as a bar, and in words. */
export function SieveBar({ part, through = 0, of, words }: Props) {
  const width = (n: number) => `${of === 0 ? 0 : (100 * n) / of}%`;
  return (
    <div className={classes.sieve}>
      <span className={classes.bar}>
        <span style={{ width: width(part - through) }} />
        <span data-through style={{ width: width(through) }} />
      </span>
      <span className="quiet">{words}</span>
    </div>
  );
}
