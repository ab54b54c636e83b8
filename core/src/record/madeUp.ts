import { fieldOf, toNumber, type Fields } from '../formula';
import { cents, type Cart, type Line } from './cart';

/** A line of a made up cart or order: so many of a product of a catalog, at the catalog's price. */
export function lineOfProduct(product: Fields, quantity = 1): Line {
  const price = toNumber(fieldOf(product, 'price')) ?? 10;
  const text = (name: string) => {
    const value = fieldOf(product, name);
    return typeof value === 'string' ? { [name]: value } : {};
  };
  return {
    sku: String(fieldOf(product, 'sku') ?? 'made'),
    name: String(fieldOf(product, 'name') ?? 'A product'),
    ...text('image'),
    ...text('url'),
    ...text('category'),
    ...{ price, quantity, total: cents(price * quantity), properties: [] },
  };
}

/** A made up cart with one more line; a cart is begun where there is none. `at` is an instant in ISO 8601. */
export function cartWithLine(
  cart: Cart | null,
  line: Line,
  { currency, at }: { currency: string; at: string },
): Cart {
  const begun = cart ?? { id: 'made', started_at: at, currency, lines: [] };
  return { ...begun, updated_at: at, lines: [...begun.lines, line] };
}

/** A made up cart with another quantity of one of its lines; without it where that is 0, and none when it was the last. */
export function cartWithQuantity(cart: Cart, at: number, quantity: number): Cart | null {
  const lines = cart.lines.flatMap((line, i) => {
    if (i !== at) return [line];
    return quantity > 0 ? [{ ...line, quantity, total: cents(line.price * quantity) }] : [];
  });
  return lines.length === 0 ? null : { ...cart, lines };
}
