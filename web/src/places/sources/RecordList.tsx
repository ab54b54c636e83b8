import { inWords } from './inWords';
import { StoredCell } from './StoredCell';
import classes from './Source.module.css';

const isFields = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  !(value instanceof Date) &&
  !(typeof (value as { date?: unknown }).date === 'string');

/** A record field by field, records and lists of records inside indented. */
export function RecordList({
  record,
  depth = 0,
}: {
  record: Record<string, unknown>;
  depth?: number;
}) {
  return (
    <dl>
      {Object.entries(record).map(([name, value]) => (
        <Entry key={name} name={name} value={value} depth={depth} />
      ))}
    </dl>
  );
}

function Entry({ name, value, depth }: { name: string; value: unknown; depth: number }) {
  const members = Array.isArray(value) ? value.filter(isFields) : [];
  const isNested = depth < 4 && (isFields(value) || members.length > 0);
  return (
    <>
      <dt>{name}</dt>
      <dd>
        {!isNested && <StoredCell name={name} value={value} />}
        {isNested && isFields(value) && (
          <div className={classes.nested}>
            <RecordList record={value} depth={depth + 1} />
          </div>
        )}
        {isNested &&
          members.map((member, i) => (
            <details key={i} className={classes.nested}>
              <summary>{inWords(member) || `${name} ${i + 1}`}</summary>
              <RecordList record={member} depth={depth + 1} />
            </details>
          ))}
      </dd>
    </>
  );
}
