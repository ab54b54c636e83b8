import { useEffect } from 'react';
import { Button, FileButton, Loader, Progress, Tabs } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { IconDownload, IconUpload } from '@tabler/icons-react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { SourceSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { notifyFailure } from '../../parts/notify';
import { ago, ahead } from '../../parts/ago';
import { counted } from '@carafe/core/words';
import { DataEffects } from './DataEffects';
import { FilesView } from './FilesView';
import { formulaOf, KIND_NAMES, targetName } from './names';
import { RowsView } from './RowsView';
import { SettingsView } from './SettingsView';
import { ShapeView } from './ShapeView';
import { StatusBadge } from './StatusBadge';
import { TypeRow } from './TypeRow';
import { useUpload } from './useUpload';
import classes from './Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** One source: its rows, their shape, its files, its settings. */
export function SourcePlace() {
  const now = useNow();
  const { id = '' } = useParams();
  const { data: loaded, error } = api.useSourceQuery(id);
  const [search, setSearch] = useSearchParams();
  const view = search.get('view') ?? 'rows';
  const { share, send } = useUpload();
  useEffect(() => {
    if (loaded) document.title = t('nameCarafe', { name: loaded.source.name });
  }, [loaded]);
  if (error)
    return (
      <main className={classes.page}>
        <p role="alert">{messageOf(error)}</p>
        <Button component={Link} to="/sources" variant="default">
          {t('backToTheSources')}
        </Button>
      </main>
    );
  if (!loaded)
    return (
      <main className={classes.page}>
        <Loader size="sm" /> {t('openingTheSource')}
      </main>
    );
  const { source, imports } = loaded;
  // What a source holds is asked for anew after every change.
  const revision = `${source.last_import_at ?? ''} ${source.rows} ${imports[0]?.state ?? ''}`;
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <div>
          <Link to="/sources" className={classes.back}>
            {t('sources')}
          </Link>
          <h1>{source.name}</h1>
        </div>
        <Actions source={source} onSend={send} />
      </header>
      <dl className={classes.facts}>
        <Fact label={t('shop')}>{source.shop ?? t('everyShop2')}</Fact>
        <Fact label={t('feeds')}>{targetName(source.target)}</Fact>
        <Fact label={t('comesAs')}>
          {KIND_NAMES[source.kind]}
          {source.address && <span className={classes.mono}> {source.address}</span>}
        </Fact>
        {formulaOf(source) && (
          <Fact label={t('usedInFormulasAs')}>
            <span className={classes.data}>{formulaOf(source)}</span>
          </Fact>
        )}
        <Fact label={t('status')}>
          <StatusBadge status={source.status} />
        </Fact>
        <Fact label={t('holds')}>
          {counted(source.rows, source.target === 'events' ? 'event' : 'row')}
        </Fact>
        {source.last_import_at && (
          <Fact label={t('lastImport')}>{ago(source.last_import_at, now)}</Fact>
        )}
        {source.next_fetch_at && (
          <Fact label={t('nextFetch')}>{ahead(source.next_fetch_at, now)}</Fact>
        )}
      </dl>
      {share !== null && <Progress value={share * 100} aria-label={t('sendingTheFile')} />}
      {source.failure && (
        <div role="alert" className={classes.alert}>
          {t('failureNothingWasChanged', { failure: source.failure })}
        </div>
      )}
      {source.waiting_import && (
        <div className={classes.alert}>
          {t('aFileNeedsYourReview')}{' '}
          <Link to={`/sources/${id}/files/${source.waiting_import}`}>
            {t('reviewWhatItChanges')}
          </Link>
        </div>
      )}
      <Tabs
        value={view}
        onChange={(value) => setSearch(value ? { view: value } : {}, { replace: true })}
        className={classes.tabs}
        keepMounted={false}
      >
        <Tabs.List>
          <Tabs.Tab value="rows">{t('rows')}</Tabs.Tab>
          <Tabs.Tab value="shape">{t('shape')}</Tabs.Tab>
          {source.kind !== 'typed' && <Tabs.Tab value="files">{t('imports')}</Tabs.Tab>}
          <Tabs.Tab value="settings">{t('settings')}</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="rows" className={classes.panel}>
          <RowsView key={source.id} source={source} revision={revision} />
        </Tabs.Panel>
        <Tabs.Panel value="shape" className={classes.panel}>
          <ShapeView source={source} />
        </Tabs.Panel>
        <Tabs.Panel value="files" className={classes.panel}>
          <FilesView imports={imports} />
          <DataEffects shop={source.shop} />
        </Tabs.Panel>
        <Tabs.Panel value="settings" className={classes.panel}>
          <SettingsView key={source.id} source={source} />
        </Tabs.Panel>
      </Tabs>
    </main>
  );
}

function Fact({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div>
      <dt>{label}</dt>
      <dd>{children}</dd>
    </div>
  );
}

/** The next file, by hand. */
function Actions({
  source,
  onSend,
}: {
  source: SourceSummary;
  onSend: (id: string, file: File) => Promise<void>;
}) {
  const navigate = useNavigate();
  const [fetchSource, { isLoading }] = api.useFetchSourceMutation();
  const fetchIt = async () => {
    try {
      const { look, source: now } = await fetchSource(source.id).unwrap();
      if (look) await navigate(`/sources/${source.id}/files/${look.import.id}`);
      else if (now.failure === null)
        notifications.show({ message: t('fetchedRowsInAll', { rows: counted(now.rows, 'row') }) });
    } catch (error) {
      notifyFailure(error, t('notFetched'));
    }
  };
  switch (source.kind) {
    case 'typed':
      return <TypeRow source={source} />;
    case 'address':
      return (
        <Button
          leftSection={<IconDownload size={15} />}
          loading={isLoading}
          onClick={() => void fetchIt()}
        >
          {t('fetchNow')}
        </Button>
      );
    case 'file':
    case 'events':
      return (
        <FileButton
          onChange={(file) => file && void onSend(source.id, file)}
          inputProps={{ 'aria-label': t('file') }}
        >
          {(props) => (
            <Button leftSection={<IconUpload size={15} />} {...props}>
              {t('uploadAFile')}
            </Button>
          )}
        </FileButton>
      );
  }
}
