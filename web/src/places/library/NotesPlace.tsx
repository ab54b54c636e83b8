import { useState } from 'react';
import { Button, Table } from '@mantine/core';
import { skipToken } from '@reduxjs/toolkit/query';
import { Link } from 'react-router';
import type { NotesOfShop, StoredNote } from '@carafe/contract';
import { PLACE_NAMES } from '@carafe/core/blocks';
import { EMPTY_NOTE, noteTitle, type ProductNote } from '@carafe/core/library';
import { api, type KeptAs } from '../../app/api';
import { messageOf } from '../../app/ask';
import { counted, figure } from '@carafe/core/words';
import table from '../../parts/table.module.css';
import { useShop } from '../../parts/useShop';
import { PlaceHead } from '../../parts/PlaceHead';
import { LibraryTabs } from './LibraryTabs';
import { NoteProductsSheet, type ProductsAsked } from './NoteProductsSheet';
import { NoteSheet } from './NoteSheet';
import classes from './Library.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('library');

/** What a note goes with, in words. */
function about({ skus, categories, tags }: ProductNote): string {
  const all = [...new Set([...categories, ...tags, ...skus])];
  if (all.length === 0) return t('everyOrder');
  return all.length <= 4
    ? all.join(', ')
    : t('sliceAndNumberMore', { slice: all.slice(0, 4).join(', '), number: all.length - 4 });
}

/** The notes of a shop, which order mails show beside the products that they are about. */
export function NotesPlace() {
  const { shop, choice } = useShop();
  const { data, error } = api.useNotesQuery(shop ?? skipToken);
  const [products, setProducts] = useState<ProductsAsked | null>(null);
  const [open, setOpen] = useState<{ kept: KeptAs | null; note: ProductNote } | null>(null);
  return (
    <main className={classes.place}>
      <LibraryTabs />
      <PlaceHead
        title={t('productNotes')}
        beside={choice}
        hint={t('textAboutOrderedProductsShownWhere')}
        add={t('writeANote')}
        onAdd={() => setOpen({ kept: null, note: EMPTY_NOTE })}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && data.notes.length > 0 && (
        <Table className={table.table}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th>{t('note')}</Table.Th>
              <Table.Th>{t('goesWith')}</Table.Th>
              <Table.Th>{t('status')}</Table.Th>
              <Table.Th>{t('place')}</Table.Th>
              <Table.Th className={table.number ?? ''}>{t('products')}</Table.Th>
              <Table.Th>{t('shownIn')}</Table.Th>
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {data.notes.map((one, i) => (
              <NoteLine
                key={one.id ?? i}
                one={one}
                onOpen={setOpen}
                onProducts={() =>
                  setProducts({
                    title: t('productsWithNote', { note: noteTitle(one.note) }),
                    note: i,
                  })
                }
              />
            ))}
          </Table.Tbody>
        </Table>
      )}
      {data && (
        <Without
          {...data}
          onProducts={() => setProducts({ title: t('productsWithoutANote'), without: true })}
        />
      )}
      {data && data.notes.length > 0 && (
        <Button
          variant="default"
          onClick={() => setProducts({ title: t('allProductsAndTheirNotes') })}
        >
          {t('allProductsAndTheirNotes')}
        </Button>
      )}
      {products && shop !== undefined && (
        <NoteProductsSheet shop={shop} {...products} onClose={() => setProducts(null)} />
      )}
      {open && shop !== undefined && data && (
        <NoteSheet shop={shop} {...open} choices={data} onClose={() => setOpen(null)} />
      )}
    </main>
  );
}

function NoteLine({
  one: { id, version, note, source, products, shown_in: shownIn },
  onOpen,
  onProducts,
}: {
  one: StoredNote;
  onOpen: (open: { kept: KeptAs; note: ProductNote }) => void;
  onProducts: () => void;
}) {
  const title = noteTitle(note);
  return (
    <Table.Tr>
      <Table.Td>
        {id === null ? (
          <>
            {title}{' '}
            <Link to={`/sources/${source?.id ?? ''}`} className="quiet">
              {t('fromName', { name: source?.name })}
            </Link>
          </>
        ) : (
          <button
            type="button"
            className={classes.open}
            onClick={() => onOpen({ kept: { id, version }, note })}
          >
            {title}
          </button>
        )}
      </Table.Td>
      <Table.Td>{about(note)}</Table.Td>
      <Table.Td>{note.statuses.join(', ') || t('any')}</Table.Td>
      <Table.Td>{PLACE_NAMES[note.place]}</Table.Td>
      <Table.Td className={table.number ?? ''}>
        <button
          type="button"
          className={classes.open}
          aria-label={t('productsWithTitle', { products: counted(products, 'product'), title })}
          onClick={onProducts}
        >
          {figure(products)}
        </button>
      </Table.Td>
      <Table.Td>
        {shownIn.length === 0 ? (
          <span className="quiet">{t('noTemplateHasANoteSlot')}</span>
        ) : (
          shownIn.map((template, i) => (
            <span key={template.id}>
              {i > 0 && ', '}
              <Link to={`/templates/${template.id}`}>{template.name}</Link>
            </span>
          ))
        )}
      </Table.Td>
    </Table.Tr>
  );
}

/** The products that nothing is said about. */
function Without({
  notes,
  without: { count, sample },
  onProducts,
}: NotesOfShop & { onProducts: () => void }) {
  if (notes.length === 0) return <p className="quiet">{t('noNotesYetANoteAbout')}</p>;
  if (count === 0) return <p className="quiet">{t('everyProductHasANote')}</p>;
  return (
    <p className="quiet">
      <button type="button" className={classes.open} onClick={onProducts}>
        {t('productsWhichNoNote', {
          products: counted(count, 'product'),
          which: count === 1 ? t('has') : t('have'),
        })}
      </button>
      : {sample.join(', ')}
      {count > sample.length && ' …'}
    </p>
  );
}
