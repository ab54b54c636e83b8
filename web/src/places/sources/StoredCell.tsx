import { localise } from '../../parts/localise';
import { inWords } from './inWords';
import classes from './Source.module.css';

const isPicture = (name: string, value: unknown): value is string =>
  typeof value === 'string' &&
  /^https?:\/\//i.test(value) &&
  (name === 'image' || /\.(?:png|jpe?g|gif|webp|avif)(?:\?|$)/i.test(value));

/** A cell of a table of stored rows; pictures are shown. */
export function StoredCell({ name, value }: { name: string; value: unknown }) {
  if (isPicture(name, value))
    return <img src={localise(value)} alt="" loading="lazy" title={value} />;
  const words = inWords(value);
  return words === '' ? <span className={classes.blank}>–</span> : <>{words}</>;
}
