import { useEffect, useMemo, useState } from 'react';
import { localise } from '../../parts/localise';
import { Basket } from './Basket';
import { Orders } from './Orders';
import { ProductSheet } from './ProductSheet';
import {
  comeBack,
  forgetVisit,
  keepVisit,
  readVisit,
  sameLine,
  tell,
  type CartLine,
  type ShopFile,
  type ShopProduct,
  type Visit,
} from './shopkeeping';
import { wordsOf } from '../../words';

const t = wordsOf('shop');

const FIRST_SHOP = 'quillmoss-gb';

/** A small, plain shop over the demo's catalog. All that Carafe learns of it comes by events. */
export function ShopPage() {
  const [shop, setShop] = useState(
    () => new URLSearchParams(location.search).get('shop') ?? FIRST_SHOP,
  );
  const [file, setFile] = useState<ShopFile | null>(null);
  const [visit, setVisit] = useState<Visit>(() => readVisit(shop));
  const [category, setCategory] = useState('Seeds');
  const [opened, setOpened] = useState<ShopProduct | null>(null);
  const [says, setSays] = useState<string | null>(null);
  useEffect(() => {
    fetch(`/shop/catalog/${encodeURIComponent(shop)}.json`)
      .then((answer) => answer.json() as Promise<ShopFile>)
      .then(setFile)
      .catch(() => setSays('The shop is closed: its shelves cannot be read.'));
  }, [shop]);
  useEffect(() => {
    const asked = new URLSearchParams(location.search);
    const signed = asked.get('cart') ?? asked.get('order');
    if (signed === null || asked.get('shop') !== shop) return;
    comeBack(readVisit(shop), signed)
      .then((back) => {
        keepVisit(shop, back);
        setVisit(back);
        setSays(asked.has('cart') ? 'Welcome back: this is your basket.' : 'This is your order.');
      })
      .catch((error: unknown) => setSays(error instanceof Error ? error.message : ''));
  }, [shop]);
  useEffect(() => {
    const address = new URLSearchParams(location.search).get('at');
    const product = file?.products.find(({ url }) => url === address);
    if (product) setOpened(product);
  }, [file]);
  const change = (next: Visit) => {
    keepVisit(shop, next);
    setVisit(next);
  };
  /** Does something and tells of it; what could not be told is said, and not done. */
  const act = async (work: () => Promise<void>, done?: string) => {
    try {
      await work();
      if (done !== undefined) setSays(done);
    } catch (error) {
      setSays(error instanceof Error ? error.message : 'That did not work.');
    }
  };
  const categories = useMemo(
    () => [...new Set(file?.products.map((p) => p.category) ?? [])],
    [file],
  );
  if (!file) return <p className="shop-note">{says ?? t('openingTheShop')}</p>;
  const money = new Intl.NumberFormat(file.shop.locale, {
    style: 'currency',
    currency: file.shop.currency,
  });
  const put = (line: CartLine) =>
    act(async () => {
      await tell(shop, visit, { kind: 'cart_added', currency: file.shop.currency, ...line });
      const known = visit.cart.some((l) => sameLine(l, line));
      const cart = known
        ? visit.cart.map((l) =>
            sameLine(l, line) ? { ...l, quantity: l.quantity + line.quantity } : l,
          )
        : [...visit.cart, line];
      change({ ...visit, cart });
      setOpened(null);
    }, `${line.name} is in your basket.`);
  const look = (product: ShopProduct) => {
    setOpened(product);
    setSays(null);
    // Its answer may come after that of what is put in the basket: it says nothing.
    void act(() => tell(shop, visit, { kind: 'viewed', sku: product.sku }));
  };
  return (
    <main className="shop">
      <header>
        <h1>{file.shop.name}</h1>
        <p>{t('aStandInShopNothingIs')}</p>
        <label>
          {t('shop')}{' '}
          <select
            value={shop}
            onChange={({ currentTarget: { value } }) => {
              setShop(value);
              setVisit(readVisit(value));
            }}
          >
            {file.shops.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          onClick={() => {
            setVisit(forgetVisit(shop));
            setSays('You are somebody new now.');
          }}
        >
          {t('comeInAsSomebodyNew')}
        </button>
      </header>
      <p className="shop-says" role="status">
        {says}
      </p>
      <nav aria-label={t('shelves')}>
        {categories.map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={name === category}
            onClick={() => setCategory(name)}
          >
            {name}
          </button>
        ))}
      </nav>
      <div className="shop-floor">
        <ul className="shop-shelf">
          {file.products
            .filter((p) => p.category === category)
            .map((product) => (
              <li key={product.sku}>
                <button type="button" onClick={() => look(product)}>
                  {product.image ? (
                    <img src={localise(product.image)} alt="" loading="lazy" />
                  ) : (
                    <span className="shop-blank" />
                  )}
                  <span>{product.name}</span>
                  <span className="shop-price">
                    {product.was_price !== '' && <del>{money.format(product.was_price)}</del>}{' '}
                    {money.format(product.price)}
                  </span>
                  {product.stock === 0 && <em>{t('soldOut')}</em>}
                </button>
              </li>
            ))}
        </ul>
        <div>
          <Basket shop={shop} currency={money} visit={visit} onChange={change} act={act} />
          <Orders shop={shop} money={money} visit={visit} onChange={change} act={act} />
        </div>
      </div>
      {opened && (
        <ProductSheet
          product={opened}
          variants={file.variants[opened.category] ?? []}
          price={money.format(opened.price)}
          onPut={(line) => void put(line)}
          onClose={() => setOpened(null)}
        />
      )}
    </main>
  );
}
