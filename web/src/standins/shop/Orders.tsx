import type { Act } from './Basket';
import { tell, type PlacedOrder, type Visit } from './shopkeeping';

const STATUSES = ['Received', 'Awaiting payment', 'Packed', 'Sent', 'Ready to collect', 'Arrived'];

/** The shop's back room: what was ordered, and what becomes of it. */
export function Orders({
  shop,
  money,
  visit,
  onChange,
  act,
}: {
  shop: string;
  money: Intl.NumberFormat;
  visit: Visit;
  onChange: (visit: Visit) => void;
  act: Act;
}) {
  if (visit.orders.length === 0) return null;
  const setStatus = ({ number }: PlacedOrder, status: string) =>
    act(async () => {
      await tell(
        shop,
        visit,
        status === 'Cancelled'
          ? { kind: 'order_cancelled', number }
          : { kind: 'order_status_changed', number, status },
      );
      const orders = visit.orders.map((o) => (o.number === number ? { ...o, status } : o));
      onChange({ ...visit, orders });
    }, `${number} is now ${status.toLowerCase()}.`);
  return (
    <section className="shop-card" aria-label="Back room">
      <h2>Back room</h2>
      <ul>
        {visit.orders.map((order) => (
          <li key={order.number}>
            <span>
              {order.number}
              <small>{order.lines.map((l) => `${l.quantity} × ${l.name}`).join(', ')}</small>
            </span>
            <select
              aria-label={`Status of ${order.number}`}
              value={order.status}
              disabled={order.status === 'Cancelled'}
              onChange={({ currentTarget }) => void setStatus(order, currentTarget.value)}
            >
              {[...STATUSES, 'Cancelled'].map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
            <span className="shop-price">{money.format(order.total)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
