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

/** One source: its rows, their shape, its files, its settings. */
export function SourcePlace() {
  const now = useNow();
  const { id = '' } = useParams();
  const { data: loaded, error } = api.useSourceQuery(id);
  const [search, setSearch] = useSearchParams();
  const view = search.get('view') ?? 'rows';
  const { share, send } = useUpload();
  useEffect(() => {
    if (loaded) document.title = `${loaded.source.name} · Carafe`;
  }, [loaded]);
  if (error)
    return (
      <main className={classes.page}>
        <p role="alert">{messageOf(error)}</p>
        <Button component={Link} to="/sources" variant="default">
          Back to the sources
        </Button>
      </main>
    );
  if (!loaded)
    return (
      <main className={classes.page}>
        <Loader size="sm" /> Opening the source …
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
            Sources
          </Link>
          <h1>{source.name}</h1>
        </div>
        <Actions source={source} onSend={send} />
      </header>
      <dl className={classes.facts}>
        <Fact label="Shop">{source.shop ?? 'every shop'}</Fact>
        <Fact label="Feeds">{targetName(source.target)}</Fact>
        <Fact label="Comes as">
          {KIND_NAMES[source.kind]}
          {source.address && <span className={classes.mono}> {source.address}</span>}
        </Fact>
        {formulaOf(source) && (
          <Fact label="Used in formulas as">
            <span className={classes.data}>{formulaOf(source)}</span>
          </Fact>
        )}
        <Fact label="Status">
          <StatusBadge status={source.status} />
        </Fact>
        <Fact label="Holds">
          {counted(source.rows, source.target === 'events' ? 'event' : 'row')}
        </Fact>
        {source.last_import_at && (
          <Fact label="Last import">{ago(source.last_import_at, now)}</Fact>
        )}
        {source.next_fetch_at && <Fact label="Next fetch">{ahead(source.next_fetch_at, now)}</Fact>}
      </dl>
      {share !== null && <Progress value={share * 100} aria-label="Sending the file" />}
      {source.failure && (
        <div role="alert" className={classes.alert}>
          {source.failure} Nothing was changed.
        </div>
      )}
      {source.waiting_import && (
        <div className={classes.alert}>
          A file needs your review.{' '}
          <Link to={`/sources/${id}/files/${source.waiting_import}`}>Review what it changes</Link>
        </div>
      )}
      <Tabs
        value={view}
        onChange={(value) => setSearch(value ? { view: value } : {}, { replace: true })}
        className={classes.tabs}
        keepMounted={false}
      >
        <Tabs.List>
          <Tabs.Tab value="rows">Rows</Tabs.Tab>
          <Tabs.Tab value="shape">Shape</Tabs.Tab>
          {source.kind !== 'typed' && <Tabs.Tab value="files">Imports</Tabs.Tab>}
          <Tabs.Tab value="settings">Settings</Tabs.Tab>
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
        notifications.show({ message: `Fetched: ${counted(now.rows, 'row')} in all.` });
    } catch (error) {
      notifyFailure(error, 'Not fetched');
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
          Fetch now
        </Button>
      );
    case 'file':
    case 'events':
      return (
        <FileButton
          onChange={(file) => file && void onSend(source.id, file)}
          inputProps={{ 'aria-label': 'File' }}
        >
          {(props) => (
            <Button leftSection={<IconUpload size={15} />} {...props}>
              Upload a file
            </Button>
          )}
        </FileButton>
      );
  }
}
