import { useCallback, useEffect, useState } from 'react';
import { Button, Group, Loader, Table, Tabs } from '@mantine/core';
import { IconDownload } from '@tabler/icons-react';
import type {
  ImportCounts,
  ImportOutcome,
  ImportRow,
  ImportSummary,
  SourceSummary,
} from '@carafe/contract';
import { api, ROWS_A_PAGE } from '../../app/api';
import { messageOf } from '../../app/ask';
import { counted, figure } from '@carafe/core/words';
import { inWords } from './inWords';
import table from '../../parts/table.module.css';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const OUTCOMES: { outcome: ImportOutcome; label: string; description: string }[] = [
  { outcome: 'new', label: t('new'), description: t('areNew') },
  { outcome: 'changed', label: t('changed'), description: t('replaceExistingRows') },
  { outcome: 'unchanged', label: t('unchanged'), description: t('alreadyExistAndStayTheSame') },
  {
    outcome: 'gone',
    label: t('removed'),
    description: t('areMissingFromTheFileAnd'),
  },
  {
    outcome: 'rejected',
    label: t('rejected'),
    description: t('cannotBeImportedAllOthersCan'),
  },
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
  if (!counts) return <p className="quiet">{one.message ?? t('thisFileWasNotImported')}</p>;
  const isOpen = one.state === 'checked';
  const taken = counts.new + counts.changed;
  return (
    <>
      <div className={classes.body}>
        <p className={classes.lead}>
          {isOpen
            ? t('rowsWereReadThisIsWhat', { rows: counted(counts.read, 'row'), name: source.name })
            : t('rowsWereRead', { rows: counted(counts.read, 'row') })}
        </p>
        {!isOpen && one.message && <p className={classes.bad}>{one.message}</p>}
        <Tabs
          value={outcome}
          onChange={(value) => value && setOutcome(value as ImportOutcome)}
          variant="none"
        >
          <Tabs.List className={classes.fates ?? ''} aria-label={t('whatHappensToTheRows')}>
            {OUTCOMES.map(({ outcome: fate, label, description }) => (
              <Tabs.Tab
                key={fate}
                value={fate}
                data-fate={fate}
                data-none={counts[fate] === 0 || undefined}
              >
                <span className={classes.figure}>{figure(counts[fate])}</span>
                <span>{label}</span>
                <small>{description}</small>
              </Tabs.Tab>
            ))}
          </Tabs.List>
        </Tabs>
        <Asides counts={counts} />
        {outcome === 'rejected' && counts.rejected > 0 && (
          <Button
            component="a"
            href={`/api/imports/${one.id}/rejected.csv`}
            variant="default"
            leftSection={<IconDownload size={15} />}
            mb={8}
          >
            {t('downloadRejectedRowsWithReasons')}
          </Button>
        )}
        <FateRows key={outcome} one={one} outcome={outcome} count={counts[outcome]} />
      </div>
      {isOpen && (
        <footer className={classes.foot}>
          <Group gap={8} ml="auto" wrap="nowrap">
            <Button variant="default" onClick={onDiscard}>
              {t('discardFile')}
            </Button>
            <Button variant="default" onClick={onBack}>
              {t('backToTheColumns')}
            </Button>
            <Button
              loading={applying}
              onClick={() => {
                setApplying(true);
                void onApply().finally(() => setApplying(false));
              }}
            >
              {taken + counts.gone === 0
                ? t('importNothingChanges')
                : t('importRowsWhich', {
                    rows: counted(taken, 'row'),
                    which: counts.gone > 0 ? t('removeGone', { gone: figure(counts.gone) }) : '',
                  })}
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
          {t('peopleWithoutConsentWhichLeftOut', {
            people: counted(left_out, 'person', 'people'),
            which: left_out === 1 ? t('is') : t('are'),
          })}
        </p>
      )}
      {consent_kept > 0 && (
        <p className={classes.bad}>
          {t('peopleOfTheFileWithConsent', {
            people: counted(consent_kept, 'person', 'people'),
            which: consent_kept === 1 ? t('is') : t('are'),
          })}
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
  const [askRows, { isFetching, error }] = api.useLazyImportRowsQuery();
  const load = useCallback(
    async (offset: number) => {
      const { data } = await askRows({ id: one.id, outcome, offset });
      if (data) setRows((before) => [...before.slice(0, offset), ...data.rows]);
    },
    [askRows, one.id, outcome],
  );
  useEffect(() => void load(0), [load]);
  if (error) return <p className="quiet">{messageOf(error)}</p>;
  if (count === 0) return <p className="quiet">{t('noRows')}</p>;
  return (
    <div className={classes.wide}>
      <Table className={table.table ?? ''}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>{t('line')}</Table.Th>
            <Table.Th>{t('key')}</Table.Th>
            <Table.Th>{HEADS[outcome]}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {rows.map((row, i) => (
            <Table.Tr key={i}>
              <Table.Td>{row.line ?? '–'}</Table.Td>
              <Table.Td>{row.key ?? '–'}</Table.Td>
              <Table.Td>
                <Fate row={row} />
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      {isFetching && <Loader size="sm" mt={8} />}
      {!isFetching && rows.length < count && rows.length % ROWS_A_PAGE === 0 && (
        <Button variant="default" mt={8} onClick={() => void load(rows.length)}>
          {t('showMoreOfNumber', { number: figure(count) })}
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
  rejected: 'Why it cannot be imported',
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
          <span className={classes.data}>{name}</span>{' '}
          <del>{inWords(before[name]) || t('blank')}</del> → {inWords(after[name]) || t('blank')}
        </div>
      ))}
    </>
  );
}
