import { Link } from 'react-router';
import { occasionsApi } from '../app/occasionsApi';
import { useNow } from '../app/useNow';
import { AskedValues } from './AskedValues';
import { ahead } from './ago';
import { momentOf } from './moment';
import { wordsOf } from '../words';

const t = wordsOf('parts');

const MOST_LINES = 12;

/** What occasions did with a person, why not, and what waits for them. */
export function PersonOccasions({ shop, email }: { shop: string; email: string }) {
  const { data } = occasionsApi.usePersonWhyQuery({ shop, email });
  const now = useNow();
  if (!data) return null;
  const { inside, lines } = data;
  return (
    <section>
      <h3>{t('occasions')}</h3>
      {inside.length + lines.length === 0 && (
        <p className="quiet">{t('noActiveOccasionInvolvesThisPerson')}</p>
      )}
      <ol>
        {inside.map(({ occasion, occasion_name, cause, entered, due }) => (
          <li key={`${occasion} ${cause}`}>
            <Link to={`/occasions?shop=${shop}&open=${occasion}`}>{occasion_name}</Link>:{' '}
            {entered === null ? t('couldEnter') : t('insideNextStep')} {ahead(due, now)}
          </li>
        ))}
        {lines.slice(0, MOST_LINES).map((line, i) => (
          <li key={i}>
            {line.occasion_name}: {line.text}
            <AskedValues parts={line.parts} />
            <div className="quiet figures">{momentOf(line.at)}</div>
          </li>
        ))}
      </ol>
    </section>
  );
}
