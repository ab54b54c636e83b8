import { useState } from 'react';
import { counted, figure } from '@carafe/core/words';
import classes from './Recommendations.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('recommendations');

interface Props {
  /** How many they are; left out where the words say enough. */
  count?: number;
  words: string;
  /** The first of them. */
  addresses: readonly string[];
  onPerson: (address: string) => void;
}

/** A figure that opens to the people behind it; each shows their picks. */
export function NamedPeople({ count, words, addresses, onPerson }: Props) {
  const [isOpen, setOpen] = useState(false);
  const said = (
    <>
      {count !== undefined && <strong>{figure(count)} </strong>}
      {words}
    </>
  );
  if (addresses.length === 0) return <span>{said}</span>;
  const more = (count ?? 0) - addresses.length;
  return (
    <>
      <button
        type="button"
        className={classes.opens}
        aria-expanded={isOpen}
        title={t('listThePeople')}
        onClick={() => setOpen(!isOpen)}
      >
        {said}
      </button>
      {isOpen && (
        <span className={classes.named}>
          {addresses.map((address) => (
            <button
              key={address}
              type="button"
              className={classes.opens}
              onClick={() => onPerson(address)}
            >
              {address}
            </button>
          ))}
          {more > 0 && (
            <span className="quiet">{t('andOthers', { others: counted(more, 'other') })}</span>
          )}
        </span>
      )}
    </>
  );
}
