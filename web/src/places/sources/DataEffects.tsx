import { Link } from 'react-router';
import { api } from '../../app/api';
import { useNow } from '../../app/useNow';
import { healthWords } from '../../parts/healthWords';
import classes from './DataEffects.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** What the latest change of data did to the published templates of a shop, or of all where none is named. */
export function DataEffects({ shop }: { shop: string | null }) {
  const { data } = api.useTemplatesQuery();
  const now = useNow();
  const told = (data?.templates ?? []).flatMap(({ id, name, shop: of, health }) => {
    const words = health && (shop === null || of === shop) ? healthWords(health, now) : '';
    return words === '' ? [] : [{ id, name, words, isBroken: (health?.errors ?? []).length > 0 }];
  });
  if (told.length === 0) return null;
  return (
    <section className={classes.effects} aria-label={t('effectsOfNewData')}>
      <h2>{t('howNewDataChangedTheEmails')}</h2>
      <ul>
        {told.map(({ id, name, words, isBroken }) => (
          <li key={id} data-broken={isBroken || undefined}>
            <Link to={`/templates/${id}`}>{name}</Link> {words}
          </li>
        ))}
      </ul>
    </section>
  );
}
