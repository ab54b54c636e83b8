import { useEffect, useState } from 'react';
import { Button, Progress, Table } from '@mantine/core';
import { Dropzone } from '@mantine/dropzone';
import { IconPlus } from '@tabler/icons-react';
import { Link } from 'react-router';
import type { SourceSummary, StoredShop } from '@carafe/contract';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { ago, ahead } from '../../parts/ago';
import { counted, figure } from '@carafe/core/words';
import { PlaceHead, PlaceSearch } from '../../parts/PlaceHead';
import { DataEffects } from './DataEffects';
import { formulaOf, KIND_NAMES, targetName } from './names';
import { NewSource } from './NewSource';
import { ShopForm } from './ShopForm';
import { StatusBadge } from './StatusBadge';
import { useUpload } from './useUpload';
import table from '../../parts/table.module.css';
import classes from './Sources.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** Where all data comes from, and how it stands. */
export function SourcesPlace() {
  const { data, error, refetch } = api.useSourcesQuery();
  const { data: known } = api.useShopsQuery();
  const sources = data?.sources;
  const shops = known?.shops ?? [];
  const [query, setQuery] = useState('');
  const [adding, setAdding] = useState<{ file: File | null } | null>(null);
  /** The shop whose settings are open; “new” for one that is added. */
  const [changing, setChanging] = useState<StoredShop | 'new' | null>(null);
  const { share, send } = useUpload();
  useEffect(() => {
    document.title = t('sourcesCarafe');
  }, []);
  const words = query.trim().toLowerCase();
  const shown = sources?.filter((s) =>
    `${s.name} ${targetName(s.target)} ${s.shop ?? ''} ${s.formula_name}`
      .toLowerCase()
      .includes(words),
  );
  const groups = shown ? groupsOf(shown, shops, words === '') : [];
  return (
    <main className={classes.place}>
      <Dropzone.FullScreen
        active
        withinPortal={false}
        multiple={false}
        onDrop={([file]) => file && setAdding({ file })}
        aria-label={t('dropAFileToImportIt')}
      >
        <div className={classes.drop}>{t('dropTheFileToImportIt')}</div>
      </Dropzone.FullScreen>
      <PlaceHead
        title={t('sources')}
        beside={<PlaceSearch label={t('searchSources')} value={query} onChange={setQuery} />}
        hint={
          <>
            {t('dropAFileAnywhereToImport')}{' '}
            <a href="/shop" target="_blank">
              {t('shop2')}
            </a>{' '}
            {t('andThe')}{' '}
            <a href="/journal" target="_blank">
              {t('journal')}
            </a>
            .
          </>
        }
        add={t('addASource')}
        onAdd={() => setAdding({ file: null })}
      />
      {share !== null && <Progress value={share * 100} aria-label={t('sendingTheFile')} mb={12} />}
      {error && (
        <div role="alert" className={classes.alert}>
          {messageOf(error)}{' '}
          <Button variant="default" onClick={() => void refetch()}>
            {t('tryAgain')}
          </Button>
        </div>
      )}
      {groups.length > 0 && (
        <Table className={`${table.table} ${classes.list}`}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th>{t('source')}</Table.Th>
              <Table.Th>{t('feeds')}</Table.Th>
              <Table.Th>{t('usedInFormulasAs')}</Table.Th>
              <Table.Th>{t('status')}</Table.Th>
              <Table.Th className={table.number ?? ''}>{t('rows')}</Table.Th>
              <Table.Th>{t('lastImport')}</Table.Th>
              <Table.Th>{t('nextFetch')}</Table.Th>
            </Table.Tr>
          </Table.Thead>
          {groups.map(({ title, shop, sources: group }) => (
            <Table.Tbody key={title}>
              <Table.Tr className={classes.shop}>
                <Table.Th colSpan={7} scope="rowgroup">
                  {title}
                  {shop && (
                    <Button
                      variant="subtle"
                      size="compact-xs"
                      ml={8}
                      aria-label={t('settingsOfTitle', { title })}
                      onClick={() => setChanging(shop)}
                    >
                      {t('settings')}
                    </Button>
                  )}
                </Table.Th>
              </Table.Tr>
              {group.map((source) => (
                <SourceLine key={source.id} source={source} />
              ))}
              {group.length === 0 && (
                <Table.Tr>
                  <Table.Td colSpan={7} className="quiet">
                    {t('noSourcesYetAddASource')}
                  </Table.Td>
                </Table.Tr>
              )}
            </Table.Tbody>
          ))}
        </Table>
      )}
      {shown && known && (
        <Button
          variant="subtle"
          size="compact-sm"
          w="fit-content"
          leftSection={<IconPlus size={14} />}
          onClick={() => setChanging('new')}
        >
          {t('addAShop2')}
        </Button>
      )}
      {shown?.length === 0 && groups.length === 0 && (
        <p className="quiet">
          {query ? t('noSourceMatchesQuery', { query }) : t('noSourcesYetDropACatalog')}
        </p>
      )}
      <DataEffects shop={null} />
      <KeptFiles />
      {changing && (
        <ShopForm
          shop={changing === 'new' ? null : changing}
          onClose={() => setChanging(null)}
          onSaved={() => setChanging(null)}
        />
      )}
      {adding && (
        <NewSource
          shops={shops}
          sources={sources ?? []}
          file={adding.file}
          onClose={() => setAdding(null)}
          onSend={send}
        />
      )}
    </main>
  );
}

/** What room files take that wait for somebody, and when they go. */
function KeptFiles() {
  const { data } = api.useHealthQuery();
  const { count, bytes } = data?.waiting_files ?? { count: 0, bytes: 0 };
  if (count === 0) return null;
  return (
    <p className="quiet">
      {t('filesKeptForImportsWhichBytes', {
        files: counted(count, 'file'),
        which: count === 1 ? t('takes') : t('take'),
        bytes: (bytes / 1e6).toLocaleString('en-GB', { maximumFractionDigits: 1 }),
      })}
    </p>
  );
}

function SourceLine({ source }: { source: SourceSummary }) {
  const { id, name, kind, target, status, rows, last_import_at, next_fetch_at, failure } = source;
  const now = useNow();
  return (
    <Table.Tr>
      <Table.Td>
        <Link to={`/sources/${id}`} className={classes.name}>
          {name}
        </Link>
        <span className={classes.kind}>{KIND_NAMES[kind]}</span>
        {failure && <div className={classes.failure}>{failure}</div>}
      </Table.Td>
      <Table.Td>{targetName(target)}</Table.Td>
      <Table.Td className={classes.formula}>{formulaOf(source) ?? '–'}</Table.Td>
      <Table.Td>
        <StatusBadge status={status} />
      </Table.Td>
      <Table.Td className={table.number ?? ''}>{figure(rows)}</Table.Td>
      <Table.Td>{last_import_at ? ago(last_import_at, now) : '–'}</Table.Td>
      <Table.Td>{next_fetch_at ? ahead(next_fetch_at, now) : '–'}</Table.Td>
    </Table.Tr>
  );
}

/** Sources by the shop that they serve, those for every shop last; a shop without any is there unless sources are searched. */
function groupsOf(sources: SourceSummary[], shops: StoredShop[], withEmpty: boolean) {
  const groups = shops.map((shop) => ({
    ...{ title: shop.name, shop },
    sources: sources.filter((source) => source.shop === shop.id),
  }));
  const shared = sources.filter((source) => source.shop === null);
  return [...groups, { title: t('everyShop'), shop: null, sources: shared }].filter(
    (g) => g.sources.length > 0 || (withEmpty && g.shop !== null),
  );
}
