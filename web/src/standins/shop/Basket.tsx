import { useState } from 'react';
import { orderNumber, sameLine, tell, totalOf, type CartLine, type Visit } from './shopkeeping';
import { wordsOf } from '../../words';

const t = wordsOf('shop');

export type Act = (work: () => Promise<void>, done: string) => Promise<void>;

/** What was put in, whom it belongs to, and the way to an order that costs nothing. */
export function Basket({
  shop,
  currency,
  visit,
  onChange,
  act,
}: {
  shop: string;
  currency: Intl.NumberFormat;
  visit: Visit;
  onChange: (visit: Visit) => void;
  act: Act;
}) {
  const [email, setEmail] = useState(visit.email);
  const [name, setName] = useState(visit.first_name);
  const [note, setNote] = useState('');
  const named = ({ sku, variant, properties }: CartLine) => ({ sku, variant, properties });
  const setQuantity = (line: CartLine, quantity: number) =>
    act(async () => {
      const isGone = quantity < 1;
      await tell(
        shop,
        visit,
        isGone
          ? { kind: 'cart_removed', ...named(line) }
          : { kind: 'cart_changed', ...named(line), quantity },
      );
      const cart = isGone
        ? visit.cart.filter((l) => !sameLine(l, line))
        : visit.cart.map((l) => (sameLine(l, line) ? { ...l, quantity } : l));
      onChange({ ...visit, cart });
    }, '');
  const checkOut = () =>
    act(async () => {
      const known = { ...visit, email: email.trim(), first_name: name.trim() };
      await tell(shop, known, { kind: 'checkout_started' });
      onChange(known);
    }, 'The checkout is started. You may leave now.');
  const order = () =>
    act(async () => {
      const number = orderNumber(new Date());
      await tell(shop, visit, { kind: 'order_placed', number, ...(note && { note }) });
      const placed = { number, status: 'Received', total: totalOf(visit.cart), lines: visit.cart };
      onChange({ ...visit, cart: [], orders: [placed, ...visit.orders] });
      setNote('');
    }, 'Ordered, for nothing.');
  return (
    <section className="shop-card" aria-label={t('basket')}>
      <h2>{t('basket')}</h2>
      {visit.cart.length === 0 && <p>{t('itIsEmpty')}</p>}
      <ul>
        {visit.cart.map((line, i) => (
          <li key={i}>
            <span>
              {line.name}, {line.variant}
              {line.properties.map((p) => (
                <small key={p.name}>
                  {p.name}: {p.value}
                </small>
              ))}
            </span>
            <input
              type="number"
              min={0}
              aria-label={t('howManyName', { name: line.name })}
              value={line.quantity}
              onChange={({ currentTarget }) => void setQuantity(line, Number(currentTarget.value))}
            />
            <span className="shop-price">{currency.format(line.price * line.quantity)}</span>
          </li>
        ))}
      </ul>
      {visit.cart.length > 0 && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void checkOut();
          }}
        >
          <p className="shop-price">
            {t('together')} {currency.format(totalOf(visit.cart))}
          </p>
          <label>
            {t('firstName')}
            <input value={name} onChange={({ currentTarget }) => setName(currentTarget.value)} />
          </label>
          <label>
            {t('emailAddress')}
            <input
              type="email"
              required
              placeholder={t('youPostExample')}
              value={email}
              onChange={({ currentTarget }) => setEmail(currentTarget.value)}
            />
          </label>
          <label>
            {t('aNoteWithTheOrder')}
            <input value={note} onChange={({ currentTarget }) => setNote(currentTarget.value)} />
          </label>
          <div className="shop-buttons">
            <button type="submit">{t('startTheCheckout')}</button>
            <button type="button" disabled={!visit.email} onClick={() => void order()}>
              {t('orderForNothing')}
            </button>
          </div>
        </form>
      )}
    </section>
  );
}
