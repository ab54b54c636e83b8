import { useEffect, useState } from 'react';
import { Button, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { ENDPOINTS, type NoteProducts } from '@carafe/contract';
import { ask, messageOf } from '../../app/ask';
import { counted, figure } from '@carafe/core/words';
import { SideSheet } from '../../parts/SideSheet';
import classes from './Library.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('library');

/** Which products are shown: those of a note, by its place among the notes, those without any, or all. */
export interface ProductsAsked {
  title: string;
  note?: number;
  without?: boolean;
}

const AT_ONCE = 100;

interface Page {
  asked: string;
  found: NoteProducts;
  problem: string | null;
}

/** Products of a shop, as many as were asked for so far; what is asked last is shown. */
function useNoteProducts(shop: string, { note, without = false }: ProductsAsked, q: string) {
  const [pages, setPages] = useState(1);
  const [page, setPage] = useState<Page | null>(null);
  useEffect(() => setPages(1), [q]);
  useEffect(() => {
    let isLatest = true;
    const offset = (pages - 1) * AT_ONCE;
    const query = {
      ...{ q, without: String(without), offset, limit: AT_ONCE },
      ...(note !== undefined && { note }),
    };
    ask(ENDPOINTS.noteProducts, { params: { shop }, query })
      .then(({ total, products }) => {
        if (!isLatest) return;
        setPage((before) => {
          const known = pages > 1 && before?.asked === q ? before.found.products : [];
          const found = { total, products: [...known.slice(0, offset), ...products] };
          return { asked: q, found, problem: null };
        });
      })
      .catch((error: unknown) => {
        const found = { total: 0, products: [] };
        if (isLatest) setPage({ asked: q, found, problem: messageOf(error) });
      });
    return () => {
      isLatest = false;
    };
  }, [shop, note, without, q, pages]);
  return { page, more: () => setPages((now) => now + 1) };
}

/** Products with the notes that go with each. */
export function NoteProductsSheet({
  shop,
  onClose,
  ...asked
}: ProductsAsked & { shop: string; onClose: () => void }) {
  const [words, setWords] = useState('');
  const [q] = useDebouncedValue(words, 200);
  const { page, more } = useNoteProducts(shop, asked, q);
  const { total = 0, products = [] } = page?.found ?? {};
  return (
    <SideSheet title={asked.title} width={520} onClose={onClose}>
      <TextInput
        aria-label={t('searchProducts')}
        placeholder={t('nameSKUCategory')}
        data-autofocus
        value={words}
        onChange={({ currentTarget: { value } }) => setWords(value)}
      />
      {page?.problem && <p role="alert">{page.problem}</p>}
      {page && !page.problem && (
        <p className="quiet">{total === 0 ? t('noProductMatches') : counted(total, 'product')}</p>
      )}
      <ul className={classes.products} aria-label={asked.title}>
        {products.map(({ sku, name, category, notes }, i) => (
          <li key={`${sku} ${i}`}>
            <span>
              {name}{' '}
              <span className="quiet">
                {sku}
                {category && `, ${category}`}
              </span>
            </span>
            {asked.without !== true && (
              <span className="quiet">{notes.join(' · ') || t('noNote')}</span>
            )}
          </li>
        ))}
      </ul>
      {products.length < total && (
        <Button variant="default" onClick={more}>
          {t('figureMore', { figure: figure(Math.min(AT_ONCE, total - products.length)) })}
        </Button>
      )}
    </SideSheet>
  );
}
