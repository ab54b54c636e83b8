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

/** What a note goes with, in words. */
function about({ skus, categories, tags }: ProductNote): string {
  const all = [...new Set([...categories, ...tags, ...skus])];
  if (all.length === 0) return 'every order';
  return all.length <= 4
    ? all.join(', ')
    : `${all.slice(0, 4).join(', ')} and ${all.length - 4} more`;
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
        title="Product notes"
        beside={choice}
        hint="Text about ordered products, shown where an email has a note slot."
        add="Write a note"
        onAdd={() => setOpen({ kept: null, note: EMPTY_NOTE })}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && data.notes.length > 0 && (
        <Table className={table.table}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th>Note</Table.Th>
              <Table.Th>Goes with</Table.Th>
              <Table.Th>Status</Table.Th>
              <Table.Th>Place</Table.Th>
              <Table.Th className={table.number ?? ''}>Products</Table.Th>
              <Table.Th>Shown in</Table.Th>
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {data.notes.map((one, i) => (
              <NoteLine
                key={one.id ?? i}
                one={one}
                onOpen={setOpen}
                onProducts={() =>
                  setProducts({ title: `Products with “${noteTitle(one.note)}”`, note: i })
                }
              />
            ))}
          </Table.Tbody>
        </Table>
      )}
      {data && (
        <Without
          {...data}
          onProducts={() => setProducts({ title: 'Products without a note', without: true })}
        />
      )}
      {data && data.notes.length > 0 && (
        <Button
          variant="default"
          onClick={() => setProducts({ title: 'All products and their notes' })}
        >
          All products and their notes
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
              from {source?.name}
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
      <Table.Td>{note.statuses.join(', ') || 'any'}</Table.Td>
      <Table.Td>{PLACE_NAMES[note.place]}</Table.Td>
      <Table.Td className={table.number ?? ''}>
        <button
          type="button"
          className={classes.open}
          aria-label={`${counted(products, 'product')} with “${title}”`}
          onClick={onProducts}
        >
          {figure(products)}
        </button>
      </Table.Td>
      <Table.Td>
        {shownIn.length === 0 ? (
          <span className="quiet">no template has a note slot for it</span>
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
  if (notes.length === 0)
    return (
      <p className="quiet">
        No notes yet. A note about bulbs is shown once in an order, even when three lines call for
        it.
      </p>
    );
  if (count === 0) return <p className="quiet">Every product has a note.</p>;
  return (
    <p className="quiet">
      <button type="button" className={classes.open} onClick={onProducts}>
        {counted(count, 'product')} {count === 1 ? 'has' : 'have'} no note
      </button>
      : {sample.join(', ')}
      {count > sample.length && ' …'}
    </p>
  );
}
