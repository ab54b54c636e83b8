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
import { wordsOf } from '../../words';

const t = wordsOf('library');

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
    id === null ? t('allShops') : (known?.shops.find((shop) => shop.id === id)?.name ?? id);
  return (
    <main className={classes.place}>
      <LibraryTabs />
      <PlaceHead
        title={t('recentlyDeleted')}
        beside={
          items.length > 0 && (
            <PlaceSearch label={t('searchWhatWasDeleted')} value={query} onChange={setQuery} />
          )
        }
        hint={t('keptForRESTORABLEDAYSDaysThen', { RESTORABLE_DAYS })}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && items.length === 0 && (
        <p className="quiet">{t('nothingWasDeletedInTheLast', { RESTORABLE_DAYS })}</p>
      )}
      {items.length > 0 && shown.length === 0 && (
        <p className="quiet">
          {t('nothingThatWasDeletedMatches')}
          {query.trim()}”.
        </p>
      )}
      {shown.length > 0 && (
        <Table className={table.table}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th>{t('name')}</Table.Th>
              <Table.Th>{t('kind')}</Table.Th>
              <Table.Th>{t('shop')}</Table.Th>
              <Table.Th>{t('deleted')}</Table.Th>
              <Table.Th>{t('deletedForGood')}</Table.Th>
              <Table.Th>
                <VisuallyHidden>{t('restore')}</VisuallyHidden>
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
    if (error) notifyFailure(error, t('notRestored'));
    else
      notifyOf(
        t('nameWasRestored', { name }),
        kind === 'occasion' ? t('itIsSwitchedOffSwitchIt') : '',
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
          aria-label={t('restoreName', { name })}
          onClick={() => void submit()}
        >
          {t('restore')}
        </Button>
      </Table.Td>
    </Table.Tr>
  );
}
