import { useEffect, useState, type DragEvent } from 'react';
import { Button, Progress, TextInput } from '@mantine/core';
import { IconPlus, IconSearch } from '@tabler/icons-react';
import { Link } from 'react-router';
import type { Shop, SourceSummary } from '@carafe/contract';
import { ago, ahead } from '../../parts/ago';
import { figure } from '../../parts/counted';
import { formulaName, KIND_NAMES, targetName } from './names';
import { NewSource } from './NewSource';
import { StatusMark } from './StatusMark';
import { useSources } from './useSources';
import { useUpload } from './useUpload';
import table from '../../parts/table.module.css';
import classes from './Sources.module.css';

/** Where all data comes from, and how it stands. */
export function SourcesPlace() {
  const { sources, shops, problem, load } = useSources();
  const [query, setQuery] = useState('');
  const [adding, setAdding] = useState<{ file: File | null } | null>(null);
  const { share, send } = useUpload();
  const [over, setOver] = useState(false);
  useEffect(() => {
    document.title = 'Sources · Carafe';
  }, []);
  const words = query.trim().toLowerCase();
  const shown = sources?.filter((s) =>
    `${s.name} ${targetName(s.target)} ${s.shop ?? ''} ${s.slot}`.toLowerCase().includes(words),
  );
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [file] = event.dataTransfer.files;
    if (file) setAdding({ file });
  };
  return (
    <main
      className={classes.place}
      data-over={over || undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      <header className={classes.head}>
        <h1>Sources</h1>
        <TextInput
          aria-label="Search sources"
          placeholder="Search"
          leftSection={<IconSearch size={14} />}
          value={query}
          onChange={({ currentTarget: { value } }) => setQuery(value)}
        />
        <span className="quiet">
          Drop a file anywhere to bring it in. Stand-ins to try things with: the{' '}
          <a href="/shop" target="_blank">
            shop
          </a>{' '}
          and the{' '}
          <a href="/journal" target="_blank">
            journal
          </a>
          .
        </span>
        <Button
          ml="auto"
          leftSection={<IconPlus size={15} />}
          onClick={() => setAdding({ file: null })}
        >
          Add a source
        </Button>
      </header>
      {share !== null && <Progress value={share * 100} aria-label="Sending the file" mb={12} />}
      {problem && (
        <div role="alert" className={classes.alert}>
          {problem}{' '}
          <Button variant="default" onClick={() => void load()}>
            Try again
          </Button>
        </div>
      )}
      {shown && shown.length > 0 && (
        <table className={`${table.table} ${classes.list}`}>
          <thead>
            <tr>
              <th>Source</th>
              <th>Feeds</th>
              <th>In formulas</th>
              <th>Status</th>
              <th className={table.number}>Rows</th>
              <th>Last taken in</th>
              <th>Next fetch</th>
            </tr>
          </thead>
          {groupsOf(shown, shops).map(({ title, sources: group }) => (
            <tbody key={title}>
              <tr className={classes.shop}>
                <th colSpan={7} scope="rowgroup">
                  {title}
                </th>
              </tr>
              {group.map((source) => (
                <SourceLine key={source.id} source={source} />
              ))}
            </tbody>
          ))}
        </table>
      )}
      {shown?.length === 0 && (
        <p className="quiet">
          {query
            ? `No source has “${query}” in its name.`
            : 'Nothing feeds the templates yet. Drop a catalog here, or add a source.'}
        </p>
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

function SourceLine({ source }: { source: SourceSummary }) {
  const { id, name, kind, target, status, rows, last_import_at, next_fetch_at, failure } = source;
  const now = new Date();
  return (
    <tr>
      <td>
        <Link to={`/sources/${id}`} className={classes.name}>
          {name}
        </Link>
        <span className={classes.kind}>{KIND_NAMES[kind]}</span>
        {failure && <div className={classes.failure}>{failure}</div>}
      </td>
      <td>{targetName(target)}</td>
      <td className={classes.formula}>{formulaName(source) ?? '–'}</td>
      <td>
        <StatusMark status={status} />
      </td>
      <td className={table.number}>{figure(rows)}</td>
      <td>{last_import_at ? ago(last_import_at, now) : '–'}</td>
      <td>{next_fetch_at ? ahead(next_fetch_at, now) : '–'}</td>
    </tr>
  );
}

/** Sources by the shop that they serve, those for every shop last. */
function groupsOf(sources: SourceSummary[], shops: Shop[]) {
  const groups = shops.map(({ id, name }) => ({
    title: name,
    sources: sources.filter((source) => source.shop === id),
  }));
  const shared = sources.filter((source) => source.shop === null);
  return [...groups, { title: 'Every shop', sources: shared }].filter((g) => g.sources.length > 0);
}
