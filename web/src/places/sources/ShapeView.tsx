import { useEffect, useState } from 'react';
import { Loader } from '@mantine/core';
import { Link } from 'react-router';
import type { SourceProfile, SourceSummary } from '@carafe/contract';
import type { FieldProfile, ProfileKind } from '@carafe/core/shape';
import { targetOf } from '@carafe/core/intake';
import { api, messageOf } from '../../app/api';
import { figure } from '../../parts/counted';
import { FillGlyph } from '../../parts/FillGlyph';
import table from '../../parts/table.module.css';
import classes from './Source.module.css';

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
export function ShapeView({ source, revision }: { source: SourceSummary; revision: string }) {
  const [profile, setProfile] = useState<SourceProfile | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let isCurrent = true;
    api
      .profile(source.id)
      .then((found) => isCurrent && setProfile(found))
      .catch((error: unknown) => isCurrent && setProblem(messageOf(error)));
    return () => {
      isCurrent = false;
    };
  }, [source.id, revision]);
  if (problem) return <p role="alert">{problem}</p>;
  if (!profile) return <Loader size="sm" mt={16} />;
  const fields = inOrder(profile.fields as FieldProfile[], source);
  if (fields.length === 0)
    return <p className="quiet">There are no rows whose shape could be told.</p>;
  const usersOf = (name: string) => profile.used_by.filter((u) => u.fields.includes(name));
  return (
    <div className={classes.shape} tabIndex={0} role="region" aria-label="Shape">
      <p className={classes.uses}>
        {profile.used_by.length === 0 ? 'No template reads this yet.' : 'Read by '}
        {profile.used_by.map(({ id, name }, i) => (
          <span key={id}>
            {i > 0 && ', '}
            <Link to={`/templates/${id}`}>{name}</Link>
          </span>
        ))}
      </p>
      <table className={table.table}>
        <thead>
          <tr>
            <th>Field</th>
            <th>Kind</th>
            <th>Filled</th>
            <th className={table.number}>Different values</th>
            <th>Range</th>
            <th>Commonest, or some</th>
            <th>Used by</th>
          </tr>
        </thead>
        <tbody>
          {fields.map((field) => (
            <FieldLine
              key={field.name}
              field={field}
              users={usersOf(field.name).map((u) => u.name)}
            />
          ))}
        </tbody>
      </table>
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
    <tr>
      <td className={classes.data}>{name}</td>
      <td>{KIND_WORDS[kind]}</td>
      <td>
        <span className={classes.fill}>
          <FillGlyph share={share} /> {(share * 100).toFixed(share === 1 || share === 0 ? 0 : 1)} %
        </span>
      </td>
      <td className={table.number}>
        {more && 'over '}
        {kind === 'record' ? '–' : figure(distinct)}
      </td>
      <td>{least === null ? '–' : `${short(least, kind)} to ${short(greatest ?? '', kind)}`}</td>
      <td className={classes.common}>{words.join(', ') || '–'}</td>
      <td>{users.join(', ') || '–'}</td>
    </tr>
  );
}

const short = (value: string, kind: ProfileKind) =>
  kind === 'date' ? value.slice(0, 10) : figure(Number(value));
