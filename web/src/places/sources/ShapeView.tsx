import { Loader, Table } from '@mantine/core';
import { Link } from 'react-router';
import type { SourceSummary } from '@carafe/contract';
import type { FieldProfile, ProfileKind } from '@carafe/core/shape';
import { targetOf } from '@carafe/core/intake';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { figure } from '@carafe/core/words';
import { FillGlyph } from '../../parts/FillGlyph';
import table from '../../parts/table.module.css';
import classes from './Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const KIND_WORDS: Record<ProfileKind, string> = {
  text: 'text',
  number: 'number',
  boolean: 'yes or no',
  date: 'date',
  list: 'list',
  record: 'record',
  mixed: 'of several kinds',
  none: 'never filled',
};

/** Every field of a source: of which kind, how often filled, what it holds, and who uses it. */
export function ShapeView({ source }: { source: SourceSummary }) {
  const { data: profile, error } = api.useProfileQuery(source.id);
  if (error) return <p role="alert">{messageOf(error)}</p>;
  if (!profile) return <Loader size="sm" mt={16} />;
  const fields = inOrder(profile.fields, source);
  if (fields.length === 0) return <p className="quiet">{t('thereAreNoRowsYet')}</p>;
  const usersOf = (name: string) => profile.used_by.filter((u) => u.fields.includes(name));
  return (
    <div className={classes.shape} tabIndex={0} role="region" aria-label={t('shape')}>
      <p className={classes.uses}>
        {profile.used_by.length === 0 ? t('noTemplateReadsThisYet') : t('readBy')}
        {profile.used_by.map(({ id, name }, i) => (
          <span key={id}>
            {i > 0 && ', '}
            <Link to={`/templates/${id}`}>{name}</Link>
          </span>
        ))}
      </p>
      <Table className={table.table ?? ''}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>{t('field')}</Table.Th>
            <Table.Th>{t('kind')}</Table.Th>
            <Table.Th>{t('filled')}</Table.Th>
            <Table.Th className={table.number ?? ''}>{t('differentValues')}</Table.Th>
            <Table.Th>{t('range')}</Table.Th>
            <Table.Th>{t('mostCommonOrSampleValues')}</Table.Th>
            <Table.Th>{t('usedBy')}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {fields.map((field) => (
            <FieldLine
              key={field.name}
              field={field}
              users={usersOf(field.name).map((u) => u.name)}
            />
          ))}
        </Table.Tbody>
      </Table>
    </div>
  );
}

/** As the target names its fields, those of its own last. */
function inOrder(fields: FieldProfile[], { target }: SourceSummary): FieldProfile[] {
  const order = new Map(targetOf(target).fields.map((field, i) => [field.name, i]));
  const rank = ({ name }: FieldProfile) => order.get(name) ?? order.size;
  return [...fields].sort((a, b) => rank(a) - rank(b));
}

const MAX_WORDS = 32;
/** A value in a few letters: of an address the end, which tells it from others. */
function clipped(text: string): string {
  if (text.length <= MAX_WORDS) return text;
  return /^https?:/.test(text)
    ? `…${text.slice(1 - MAX_WORDS)}`
    : `${text.slice(0, MAX_WORDS - 1)}…`;
}

function FieldLine({ field, users }: { field: FieldProfile; users: string[] }) {
  const { name, kind, filled, of, distinct, more, least, greatest, commonest, samples } = field;
  const share = of === 0 ? 0 : filled / of;
  const words =
    commonest.length > 0
      ? commonest.slice(0, 4).map(({ value, count }) => `${clipped(value)} (${figure(count)})`)
      : samples.slice(0, 3).map(clipped);
  return (
    <Table.Tr>
      <Table.Td className={classes.data}>{name}</Table.Td>
      <Table.Td>{KIND_WORDS[kind]}</Table.Td>
      <Table.Td>
        <span className={classes.fill}>
          <FillGlyph share={share} /> {(share * 100).toFixed(share === 1 || share === 0 ? 0 : 1)} %
        </span>
      </Table.Td>
      <Table.Td className={table.number ?? ''}>
        {more && t('over')}
        {kind === 'record' ? '–' : figure(distinct)}
      </Table.Td>
      <Table.Td>
        {least === null
          ? '–'
          : t('leastToGreatest', {
              least: short(least, kind),
              greatest: short(greatest ?? '', kind),
            })}
      </Table.Td>
      <Table.Td className={classes.common}>{words.join(', ') || '–'}</Table.Td>
      <Table.Td>{users.join(', ') || '–'}</Table.Td>
    </Table.Tr>
  );
}

const short = (value: string, kind: ProfileKind) =>
  kind === 'date' ? value.slice(0, 10) : figure(Number(value));
