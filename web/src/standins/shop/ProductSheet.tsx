import { useEffect, useRef, useState } from 'react';
import type { CartLine, ShopProduct } from './shopkeeping';

const WEEKS = ['', 'Week 9', 'Week 10', 'Week 11', 'Week 12', 'Week 36', 'Week 40', 'Week 44'];

/** One product: variant, quantity, and what is engraved, noted or asked for with it. */
export function ProductSheet({
  product,
  variants,
  price,
  onPut,
  onClose,
}: {
  product: ShopProduct;
  variants: string[];
  price: string;
  onPut: (line: CartLine) => void;
  onClose: () => void;
}) {
  const [variant, setVariant] = useState(variants[0] ?? '');
  const [quantity, setQuantity] = useState(1);
  const [label, setLabel] = useState('');
  const [gift, setGift] = useState('');
  const [week, setWeek] = useState('');
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  const put = () => {
    const { sku, name, image, url, category } = product;
    const properties = [
      { name: 'Engraved label', value: label },
      { name: 'Gift note', value: gift },
      { name: 'Delivery week', value: week },
    ].filter(({ value }) => value !== '');
    onPut({ sku, name, image, url, category, price: product.price, quantity, variant, properties });
  };
  return (
    <dialog ref={dialog} onClose={onClose} aria-label={product.name}>
      <form
        method="dialog"
        onSubmit={(event) => {
          event.preventDefault();
          put();
        }}
      >
        <h2>{product.name}</h2>
        <p>{product.description}</p>
        <p className="shop-price">{price}</p>
        <label>
          Variant
          <select value={variant} onChange={({ currentTarget }) => setVariant(currentTarget.value)}>
            {variants.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <label>
          How many
          <input
            type="number"
            min={1}
            max={99}
            value={quantity}
            onChange={({ currentTarget }) => setQuantity(Number(currentTarget.value) || 1)}
          />
        </label>
        <label>
          Engraved label
          <input value={label} onChange={({ currentTarget }) => setLabel(currentTarget.value)} />
        </label>
        <label>
          Gift note
          <input value={gift} onChange={({ currentTarget }) => setGift(currentTarget.value)} />
        </label>
        <label>
          Delivery week
          <select value={week} onChange={({ currentTarget }) => setWeek(currentTarget.value)}>
            {WEEKS.map((name) => (
              <option key={name} value={name}>
                {name || 'Whenever'}
              </option>
            ))}
          </select>
        </label>
        <div className="shop-buttons">
          <button type="button" onClick={onClose}>
            Back
          </button>
          <button type="submit" disabled={product.stock === 0}>
            {product.stock === 0 ? 'Sold out' : 'Put it in the basket'}
          </button>
        </div>
      </form>
    </dialog>
  );
}
