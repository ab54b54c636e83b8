import { useState } from 'react';
import { Button, Table, VisuallyHidden } from '@mantine/core';
import { RESTORABLE_DAYS, type DeletedItem, type DeletedKind } from '@carafe/contract';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { ago } from '../../parts/ago';
import { notifyFailure, notifyOf } from '../../parts/notify';
import { PlaceHead, PlaceSearch } from '../../parts/PlaceHead';
import table from '../../parts/table.module.css';
import { LibraryTabs } from './LibraryTabs';
import classes from './Library.module.css';

const KIND_NAMES: Record<DeletedKind, string> = {
  template: 'Template',
  occasion: 'Occasion',
  picture: 'Picture',
  note: 'Product note',
  formula: 'Named formula',
  rule: 'Recommendation rule',
  segment: 'Segment',
};

/** What was deleted lately, and can be restored. */
export function DeletedPlace() {
  const { data, error } = api.useDeletedQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data: known } = api.useShopsQuery();
  const [query, setQuery] = useState('');
  const words = query.trim().toLowerCase();
  const items = data?.deleted ?? [];
  const shown = items.filter(({ kind, name }) =>
    `${name} ${KIND_NAMES[kind]}`.toLowerCase().includes(words),
  );
  const shopName = (id: string | null) =>
    id === null ? 'All shops' : (known?.shops.find((shop) => shop.id === id)?.name ?? id);
  return (
    <main className={classes.place}>
      <LibraryTabs />
      <PlaceHead
        title="Recently deleted"
        beside={
          items.length > 0 && (
            <PlaceSearch label="Search what was deleted" value={query} onChange={setQuery} />
          )
        }
        hint={`Kept for ${RESTORABLE_DAYS} days, then deleted for good.`}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && items.length === 0 && (
        <p className="quiet">
          Nothing was deleted in the last {RESTORABLE_DAYS} days. Templates, occasions, pictures,
          notes, formulas, rules and segments that you delete can be restored here.
        </p>
      )}
      {items.length > 0 && shown.length === 0 && (
        <p className="quiet">Nothing that was deleted matches “{query.trim()}”.</p>
      )}
      {shown.length > 0 && (
        <Table className={table.table}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th>Name</Table.Th>
              <Table.Th>Kind</Table.Th>
              <Table.Th>Shop</Table.Th>
              <Table.Th>Deleted</Table.Th>
              <Table.Th>Deleted for good</Table.Th>
              <Table.Th>
                <VisuallyHidden>Restore</VisuallyHidden>
              </Table.Th>
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {shown.map((item) => (
              <DeletedLine
                key={`${item.kind} ${item.id}`}
                item={item}
                shopName={shopName(item.shop)}
              />
            ))}
          </Table.Tbody>
        </Table>
      )}
    </main>
  );
}

function DeletedLine({ item, shopName }: { item: DeletedItem; shopName: string }) {
  const { kind, id, name, deleted_at: deletedAt, until } = item;
  const now = useNow();
  const [restore, { isLoading }] = api.useRestoreDeletedMutation();
  const submit = async () => {
    const { error } = await restore({ kind, id });
    if (error) notifyFailure(error, 'Not restored');
    else
      notifyOf(
        `“${name}” was restored`,
        kind === 'occasion' ? 'It is switched off. Switch it on when it should send.' : '',
      );
  };
  return (
    <Table.Tr>
      <Table.Td>{name}</Table.Td>
      <Table.Td>{KIND_NAMES[kind]}</Table.Td>
      <Table.Td>{shopName}</Table.Td>
      <Table.Td>{ago(deletedAt, now)}</Table.Td>
      <Table.Td>{ago(until, now)}</Table.Td>
      <Table.Td ta="end">
        <Button
          variant="default"
          size="compact-sm"
          loading={isLoading}
          aria-label={`Restore ${name}`}
          onClick={() => void submit()}
        >
          Restore
        </Button>
      </Table.Td>
    </Table.Tr>
  );
}
