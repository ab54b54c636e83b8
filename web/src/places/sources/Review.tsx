import { useEffect, useState } from 'react';
import { Button, Group, Loader } from '@mantine/core';
import { IconDownload } from '@tabler/icons-react';
import type {
  ImportCounts,
  ImportOutcome,
  ImportRow,
  ImportSummary,
  SourceSummary,
} from '@carafe/contract';
import { api, messageOf, ROWS_A_PAGE } from '../../app/api';
import { counted, figure } from '../../parts/counted';
import { inWords } from './inWords';
import table from '../../parts/table.module.css';
import classes from './File.module.css';

const OUTCOMES: { outcome: ImportOutcome; label: string; says: string }[] = [
  { outcome: 'new', label: 'New', says: 'are not there yet' },
  { outcome: 'changed', label: 'Changed', says: 'take the place of what is there' },
  { outcome: 'unchanged', label: 'Unchanged', says: 'are there already, just so' },
  { outcome: 'gone', label: 'Gone', says: 'are in the source, not in the file, and go' },
  { outcome: 'rejected', label: 'Rejected', says: 'cannot be taken; everything else can' },
];

interface Props {
  source: SourceSummary;
  one: ImportSummary;
  onBack: () => void;
  onApply: () => Promise<void>;
  onDiscard: () => void;
}

/** What a file changes, before it does; rows of each fate to look at. */
export function Review({ source, one, onBack, onApply, onDiscard }: Props) {
  const { counts } = one;
  const first = OUTCOMES.find(({ outcome }) => counts && counts[outcome] > 0)?.outcome ?? 'new';
  const [outcome, setOutcome] = useState<ImportOutcome>(
    counts && counts.rejected > 0 ? 'rejected' : first,
  );
  const [applying, setApplying] = useState(false);
  if (!counts) return <p className="quiet">{one.message ?? 'This file was not taken.'}</p>;
  const isOpen = one.state === 'checked';
  const taken = counts.new + counts.changed;
  return (
    <>
      <div className={classes.body}>
        <p className={classes.lead}>
          {isOpen
            ? `${counted(counts.read, 'row')} were read. This is what the file does to “${source.name}”; nothing has changed yet.`
            : `${counted(counts.read, 'row')} were read.`}
        </p>
        <div className={classes.fates} role="tablist" aria-label="What becomes of rows">
          {OUTCOMES.map(({ outcome: fate, label, says }) => (
            <button
              key={fate}
              type="button"
              role="tab"
              aria-selected={fate === outcome}
              data-fate={fate}
              data-none={counts[fate] === 0 || undefined}
              onClick={() => setOutcome(fate)}
            >
              <span className={classes.figure}>{figure(counts[fate])}</span>
              <span>{label}</span>
              <small>{says}</small>
            </button>
          ))}
        </div>
        <Asides counts={counts} />
        {outcome === 'rejected' && counts.rejected > 0 && (
          <Button
            component="a"
            href={`/api/imports/${one.id}/rejected.csv`}
            variant="default"
            leftSection={<IconDownload size={15} />}
            mb={8}
          >
            Download them with the reasons
          </Button>
        )}
        <FateRows key={outcome} one={one} outcome={outcome} count={counts[outcome]} />
      </div>
      {isOpen && (
        <footer className={classes.foot}>
          <Group gap={8} ml="auto" wrap="nowrap">
            <Button variant="default" onClick={onDiscard}>
              Throw the file away
            </Button>
            <Button variant="default" onClick={onBack}>
              Back to the columns
            </Button>
            <Button
              loading={applying}
              onClick={() => {
                setApplying(true);
                void onApply().finally(() => setApplying(false));
              }}
            >
              {taken + counts.gone === 0
                ? 'Take it in: nothing changes'
                : `Take in ${counted(taken, 'row')}${counts.gone > 0 ? `, let ${figure(counts.gone)} go` : ''}`}
            </Button>
          </Group>
        </footer>
      )}
    </>
  );
}

function Asides({ counts }: { counts: ImportCounts }) {
  const { left_out, consent_kept } = counts;
  return (
    <>
      {left_out > 0 && (
        <p className="quiet">
          {counted(left_out, 'person', 'people')} without consent {left_out === 1 ? 'is' : 'are'}{' '}
          left out, as asked.
        </p>
      )}
      {consent_kept > 0 && (
        <p className={classes.bad}>
          {counted(consent_kept, 'person', 'people')} of the file with consent{' '}
          {consent_kept === 1 ? 'is' : 'are'} known here without: that stands. To let the file give
          it, go back to the columns.
        </p>
      )}
    </>
  );
}

function FateRows({
  one,
  outcome,
  count,
}: {
  one: ImportSummary;
  outcome: ImportOutcome;
  count: number;
}) {
  const [rows, setRows] = useState<ImportRow[]>([]);
  const [loading, setLoading] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  const load = async (offset: number) => {
    setLoading(true);
    try {
      const { rows: found } = await api.importRows(one.id, outcome, offset);
      setRows((before) => (offset === 0 ? found : [...before, ...found]));
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setLoading(false);
    }
  };
  useEffect(() => {
    void load(0);
    // A component of its own for each fate: it is asked once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  if (problem) return <p className="quiet">{problem}</p>;
  if (count === 0) return <p className="quiet">No rows.</p>;
  return (
    <div className={classes.wide}>
      <table className={table.table}>
        <thead>
          <tr>
            <th>Line</th>
            <th>Key</th>
            <th>{HEADS[outcome]}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i}>
              <td>{row.line ?? '–'}</td>
              <td>{row.key ?? '–'}</td>
              <td>
                <Fate row={row} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {loading && <Loader size="sm" mt={8} />}
      {!loading && rows.length < count && rows.length % ROWS_A_PAGE === 0 && (
        <Button variant="default" mt={8} onClick={() => void load(rows.length)}>
          Show more of {figure(count)}
        </Button>
      )}
    </div>
  );
}

const HEADS: Record<ImportOutcome, string> = {
  new: 'As it will be stored',
  changed: 'What changes',
  unchanged: 'As it is stored',
  gone: 'As it is stored now',
  rejected: 'Why it cannot be taken',
};

function Fate({ row }: { row: ImportRow }) {
  const { record, before, cells, problems } = row;
  if (problems.length > 0)
    return (
      <>
        {problems.map(({ column, message }, i) => (
          <div key={i}>
            <strong>{column}</strong>: {message}
          </div>
        ))}
        {cells && <div className="quiet">{cells.map(inWords).join(' · ')}</div>}
      </>
    );
  if (record && before) return <Changes before={before} after={record} />;
  const shown = record ?? before ?? {};
  return (
    <span>
      {Object.entries(shown)
        .map(([name, value]) => [name, inWords(value)])
        .filter(([, words]) => words !== '')
        .slice(0, 8)
        .map(([name, words]) => `${name} ${words}`)
        .join(' · ')}
    </span>
  );
}

function Changes({
  before,
  after,
}: {
  before: Record<string, unknown>;
  after: Record<string, unknown>;
}) {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (name) => JSON.stringify(before[name]) !== JSON.stringify(after[name]),
  );
  return (
    <>
      {names.map((name) => (
        <div key={name}>
          <span className={classes.data}>{name}</span> <del>{inWords(before[name]) || 'blank'}</del>{' '}
          → {inWords(after[name]) || 'blank'}
        </div>
      ))}
    </>
  );
}
