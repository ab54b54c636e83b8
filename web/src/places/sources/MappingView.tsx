import { useMemo } from 'react';
import { Button, Group, SegmentedControl, Select, Switch, Tooltip } from '@mantine/core';
import { IconAlertTriangle, IconCheck, IconKey } from '@tabler/icons-react';
import type { ImportLook, ImportMode, SourceSummary } from '@carafe/contract';
import {
  mappingProblems,
  targetOf,
  type FileSettings,
  type MappedColumn,
  type Mapping,
  type Target,
} from '@carafe/core/intake';
import { api } from '../../app/api';
import { counted } from '@carafe/core/words';
import { ColumnLines } from './ColumnLines';
import type { Asked } from './asked';
import { FixedFields } from './FixedFields';
import { FormatForm } from './FormatForm';
import { NumberedColumns } from './NumberedColumns';
import { RowLines } from './RowLines';
import { SampleTable } from './SampleTable';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

interface Props {
  source: SourceSummary;
  look: ImportLook;
  asked: Asked | null;
  onChange: (asked: Asked) => void;
  onLookAgain: (settings: Partial<FileSettings>) => void;
  onCheck: () => void;
  onDiscard: () => void;
}

/** How the file is written, which column is what, and ten rows as they will be stored. */
export function MappingView({
  source,
  look,
  asked,
  onChange,
  onLookAgain,
  onCheck,
  onDiscard,
}: Props) {
  const target = targetOf(source.target);
  const isEvents = source.target === 'events';
  const settings = asked?.settings ?? null;
  const problems = useMemo(
    () => (settings && !isEvents ? mappingProblems(settings.mapping, target) : []),
    [settings, target, isEvents],
  );
  const setMapping = (mapping: Mapping) => {
    if (asked) onChange({ ...asked, settings: { ...asked.settings, mapping } });
  };
  const setColumns = (columns: MappedColumn[]) => {
    if (settings) setMapping({ ...settings.mapping, columns });
  };
  const { data: shops } = api.useShopsQuery();
  const currency = shops?.shops.find(({ id }) => id === source.shop)?.currency ?? null;
  const isReady = asked !== null && look.problem === null && problems.length === 0;
  return (
    <>
      <div className={classes.body}>
        <FormatForm look={look} settings={settings} onLookAgain={onLookAgain} />
        {look.problem && (
          <div role="alert" className={classes.alert}>
            {t('problemNothingWasChangedCorrectThe', { problem: look.problem })}
          </div>
        )}
        {asked && settings && !look.problem && isEvents && (
          <p className="quiet">
            {t('eventsAtTheBeginningOfThe', { events: counted(look.rows.length, 'event') })}
          </p>
        )}
        {asked && settings && !look.problem && !isEvents && (
          <>
            <KeyChoice target={target} look={look} settings={settings} onChange={setColumns} />
            <NumberedColumns
              target={target}
              columns={look.columns}
              rows={look.rows}
              mapped={settings.mapping.columns}
              onChange={setColumns}
            />
            <RowLines
              target={target}
              look={look}
              mapping={settings.mapping}
              onChange={setMapping}
            />
            <ColumnLines
              target={target}
              look={look}
              mapped={settings.mapping.columns}
              onChange={setColumns}
            />
            <FixedFields
              {...{ target, currency }}
              mapping={settings.mapping}
              onChange={setMapping}
            />
            <SampleTable target={target} look={look} mapping={settings.mapping} />
          </>
        )}
      </div>
      <footer className={classes.foot}>
        {asked && !isEvents && <ModeChoice source={source} asked={asked} onChange={onChange} />}
        {problems.length > 0 && (
          <div className={classes.problems} role="alert">
            <IconAlertTriangle size={15} aria-hidden /> {problems.join(' ')}
          </div>
        )}
        <Group gap={8} ml="auto" wrap="nowrap">
          <Button variant="default" onClick={onDiscard}>
            {t('discardFile')}
          </Button>
          <Button disabled={!isReady} onClick={onCheck}>
            {t('checkEveryRow')}
          </Button>
        </Group>
      </footer>
    </>
  );
}

/** Whether the file is all there is, or a part; for people, what becomes of consent. */
function ModeChoice({
  source,
  asked,
  onChange,
}: {
  source: SourceSummary;
  asked: Asked;
  onChange: (asked: Asked) => void;
}) {
  const { settings } = asked;
  return (
    <Group gap={16} wrap="wrap">
      <SegmentedControl
        size="xs"
        aria-label={t('whatTheFileIs')}
        value={asked.mode}
        onChange={(value) => onChange({ ...asked, mode: value as ImportMode })}
        data={[
          { value: 'whole', label: t('replacesAllRows') },
          { value: 'part', label: t('addsAndUpdates') },
        ]}
      />
      {source.target === 'people' && (
        <>
          <Switch
            label={t('importOnlyPeopleWithConsent')}
            checked={settings.consented_only}
            onChange={({ currentTarget: { checked } }) =>
              onChange({ ...asked, settings: { ...settings, consented_only: checked } })
            }
          />
          <Tooltip multiline w={280} label={t('whenOffAPersonKnownTo')}>
            <Switch
              label={t('letThisFileGiveConsentTo')}
              checked={asked.raiseConsent}
              onChange={({ currentTarget: { checked } }) =>
                onChange({ ...asked, raiseConsent: checked })
              }
            />
          </Tooltip>
        </>
      )}
    </Group>
  );
}

/** The column that tells rows apart, tested on the rows that were looked at. */
function KeyChoice({
  target,
  look,
  settings,
  onChange,
}: {
  target: Target;
  look: ImportLook;
  settings: FileSettings;
  onChange: (columns: MappedColumn[]) => void;
}) {
  const { columns } = settings.mapping;
  const key = columns.find((c) => c.to === target.key && !c.list);
  const label = target.fields.find((f) => f.name === target.key)?.label ?? target.key;
  const at = key ? look.columns.indexOf(key.column) : -1;
  const cells = at < 0 ? [] : look.rows.map((row) => String((row[at] as string) ?? '').trim());
  const filled = cells.filter((cell) => cell !== '');
  const doubles = filled.length - new Set(filled).size;
  const rowsAreLines = columns.some((c) => c.list?.member === 0);
  const choose = (column: string | null) =>
    onChange(
      columns.map((c) => {
        if (c.column === column)
          return { ...c, to: target.key, reading: { kind: 'text' }, because: 'hand' };
        return c.to === target.key && !c.list ? { ...c, to: null } : c;
      }),
    );
  return (
    <div className={classes.key}>
      <IconKey size={16} aria-hidden />
      <Select
        aria-label={t('key')}
        w={240}
        placeholder={t('whichColumnIsTheLabel', { label })}
        value={key?.column ?? null}
        data={look.columns}
        searchable
        allowDeselect={false}
        onChange={choose}
      />
      <span>
        {t('isThe')} {label}
        {t('identifiesEachRow')}{' '}
        {key && filled.length > 0 && doubles === 0 && filled.length === cells.length && (
          <span className={classes.good}>
            <IconCheck size={14} aria-hidden /> {t('noDuplicatesInTheFirst')}{' '}
            {counted(cells.length, 'row')}.
          </span>
        )}
        {key && doubles > 0 && !rowsAreLines && (
          <span className={classes.bad}>
            <IconAlertTriangle size={14} aria-hidden /> {counted(doubles, 'double')}{' '}
            {t('inTheFirst')} {counted(cells.length, 'row')}
            {t('appearTwiceTheSecondOfEach')}
          </span>
        )}
        {key && doubles > 0 && rowsAreLines && (
          <span className={classes.good}>
            <IconCheck size={14} aria-hidden /> {t('rowsWithTheSameValueAre')}
          </span>
        )}
        {key && filled.length < cells.length && (
          <span className={classes.bad}>
            {' '}
            {t('rowsWithoutOne', { rows: counted(cells.length - filled.length, 'row') })}
          </span>
        )}
      </span>
    </div>
  );
}
