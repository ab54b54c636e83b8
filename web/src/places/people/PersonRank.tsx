import { peopleApi } from '../../app/peopleApi';
import { useNow } from '../../app/useNow';
import { ago } from '../../parts/ago';
import { counted } from '@carafe/core/words';
import { wordsOf } from '../../words';

const t = wordsOf('people');

const FIFTHS = [
  '',
  t('lowestFifth'),
  t('secondFifth'),
  t('middleFifth'),
  t('secondBestFifth'),
  t('bestFifth'),
];

/** What the rank of a person is made of, in words. */
export function PersonRank({ shop, email }: { shop: string; email: string }) {
  const { data } = peopleApi.usePersonRankQuery({ shop, email });
  const now = useNow();
  const standing = data?.standing;
  if (!standing || standing.rank === null) return null;
  const { rank, recency, frequency, spend, orders, spent, last_order_at, buyers } = standing;
  return (
    <section>
      <h3>{t('rankRankOf5', { rank })}</h3>
      <p className="quiet">
        {t('comparedWithAllBuyersPeopleWho', { buyers: buyers.toLocaleString('en-GB') })}
      </p>
      <ul>
        <li>
          {t('lastOrder')} {last_order_at === null ? t('unknown') : ago(last_order_at, now)}:{' '}
          {FIFTHS[recency]} ({recency})
        </li>
        <li>
          {counted(orders, 'order')}: {FIFTHS[frequency]} ({frequency})
        </li>
        <li>
          {spent.toLocaleString('en-GB', { maximumFractionDigits: 2 })} {t('spentInAll')}{' '}
          {FIFTHS[spend]} ({spend})
        </li>
      </ul>
    </section>
  );
}
