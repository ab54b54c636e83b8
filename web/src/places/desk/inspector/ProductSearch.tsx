import { useEffect, useMemo, useState } from 'react';
import { Autocomplete, Checkbox, NumberInput, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { IconCheck, IconPlus } from '@tabler/icons-react';
import { counted } from '@carafe/core/words';
import { localise } from '../../../parts/localise';
import type { Product } from '../../../parts/product';
import { useCategories, useProducts, type Asked } from './catalogProducts';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

const ALL: Asked = { words: '', category: '', inStock: false, upTo: null };

interface Props {
  source: string;
  /** Of prices without one of their own (ISO 4217). */
  currency: string;
  isPicked: (sku: string) => boolean;
  isFull: boolean;
  onPick: (product: Product) => void;
}

/** The products of a catalog, looked through by words, category, stock and price. */
export function ProductSearch({ source, currency, isPicked, isFull, onPick }: Props) {
  const [now, setNow] = useState(ALL);
  const put = (changed: Partial<Asked>) => setNow((was) => ({ ...was, ...changed }));
  const [asked] = useDebouncedValue(now, 200);
  const found = useProducts(source, asked, currency);
  const categories = useCategories(source);
  // Enter takes the first that is found, as soon as it is, and the next can be looked for.
  const [wanted, setWanted] = useState<Asked | null>(null);
  useEffect(() => {
    if (wanted === null || found?.asked !== wanted) return;
    setWanted(null);
    const first = found.products.find(({ sku }) => sku !== '' && !isPicked(sku));
    if (!first || isFull) return;
    onPick(first);
    put({ words: '' });
  }, [wanted, found, isPicked, isFull, onPick]);
  const isNarrowed = useMemo(() => JSON.stringify(asked) !== JSON.stringify(ALL), [asked]);
  return (
    <section aria-label={t('productsOfTheCatalog')}>
      <TextInput
        aria-label={t('searchProducts')}
        placeholder={t('nameSKUAnythingInIt')}
        data-autofocus
        value={now.words}
        onChange={({ currentTarget: { value } }) => put({ words: value })}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          setWanted(now);
        }}
      />
      <div className={classes.narrow}>
        <Autocomplete
          aria-label={t('category')}
          placeholder={t('anyCategory')}
          data={categories}
          value={now.category}
          onChange={(category) => put({ category })}
        />
        <NumberInput
          aria-label={t('priceUpTo')}
          placeholder={t('anyPrice')}
          prefix={t('upTo')}
          min={0}
          // It keeps what is typed: “4.” is no number yet, and no reason to forget the 4.
          onChange={(upTo) => put({ upTo: upTo === '' ? null : Number(upTo) })}
        />
        <Checkbox
          label={t('inStock')}
          checked={now.inStock}
          onChange={({ currentTarget: { checked } }) => put({ inStock: checked })}
        />
      </div>
      {found?.problem && <p role="alert">{found.problem}</p>}
      <ul className={classes.products}>
        {found?.products.map((product) => {
          const { sku, name, price, image, isGone } = product;
          const isThere = isPicked(sku);
          return (
            <li key={sku}>
              <button
                type="button"
                disabled={isThere || isFull || sku === ''}
                onClick={() => onPick(product)}
              >
                {isThere ? <IconCheck size={14} /> : <IconPlus size={14} />}
                {image === '' ? (
                  <span className={classes.noPicture} />
                ) : (
                  <img src={localise(image)} alt="" width={28} height={28} loading="lazy" />
                )}
                <span>{name}</span>
                <span className="quiet">
                  {sku}
                  {isGone && t('outOfStock')}
                </span>
                <span className="figures">{price}</span>
              </button>
            </li>
          );
        })}
        {found && found.total > found.products.length && (
          <li className="quiet">
            {t('numberOfProductsSearchOrFilter', {
              number: found.products.length,
              products: counted(found.total, 'product'),
            })}
          </li>
        )}
      </ul>
      {found?.products.length === 0 && !found.problem && (
        <p className="quiet">
          {isNarrowed ? t('noProductMatchesRemoveAFilter') : t('theCatalogHasNoProductsYet')}
        </p>
      )}
    </section>
  );
}
