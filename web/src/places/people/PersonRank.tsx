import { peopleApi } from '../../app/peopleApi';
import { useNow } from '../../app/useNow';
import { ago } from '../../parts/ago';
import { counted } from '@carafe/core/words';

const FIFTHS = [
  '',
  'lowest fifth',
  'second fifth',
  'middle fifth',
  'second-best fifth',
  'best fifth',
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
      <h3>Rank {rank} of 5</h3>
      <p className="quiet">
        Compared with all {buyers.toLocaleString('en-GB')} people who have ordered. The rank is the
        average of three:
      </p>
      <ul>
        <li>
          Last order {last_order_at === null ? 'unknown' : ago(last_order_at, now)}:{' '}
          {FIFTHS[recency]} ({recency})
        </li>
        <li>
          {counted(orders, 'order')}: {FIFTHS[frequency]} ({frequency})
        </li>
        <li>
          {spent.toLocaleString('en-GB', { maximumFractionDigits: 2 })} spent in all:{' '}
          {FIFTHS[spend]} ({spend})
        </li>
      </ul>
    </section>
  );
}
