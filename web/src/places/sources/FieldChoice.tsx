import { useState } from 'react';
import { Group, Select, TextInput } from '@mantine/core';
import type { TargetField } from '@carafe/core/intake';

const OUT = '\u0000out';
const OWN = '\u0000own';
const OWN_LINE = '\u0000own line';
/** Before the names of a line's fields, where a column may be of either. */
const LINE = '\u0000line ';

const items = (fields: readonly TargetField[], before = '') =>
  fields.map(({ name, label, required }) => ({
    value: `${before}${name}`,
    label: `${before === LINE ? 'Line: ' : ''}${label}${required ? ' (needed)' : ''}`,
  }));

/** Which field a column fills: one that the record knows, one of its own, or none. */
export function FieldChoice({
  column,
  value,
  own,
  fields,
  line,
  isLine = false,
  one,
  onChange,
}: {
  column: string;
  value: string | null;
  /** The name that a field of its own would get. */
  own: string;
  fields: readonly TargetField[];
  /** The fields of a line, where a column may fill one. */
  line?: readonly TargetField[] | undefined;
  /** Whether it does. */
  isLine?: boolean;
  /** What a row is: “order”. */
  one: string;
  onChange: (value: string | null, isLine: boolean) => void;
}) {
  const isKnown = value !== null && (isLine ? (line ?? []) : fields).some((f) => f.name === value);
  const isOwn = value !== null && !isKnown;
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const name = draft?.trim();
    setDraft(null);
    if (name) onChange(name, isLine);
  };
  return (
    <Group gap={6} wrap="nowrap" flex={1} miw={0}>
      <Select
        aria-label={`What ${column} fills`}
        flex={1}
        miw={0}
        maw={200}
        searchable
        allowDeselect={false}
        value={
          value === null ? OUT : isKnown ? `${isLine ? LINE : ''}${value}` : isLine ? OWN_LINE : OWN
        }
        data={[
          { group: `For each ${one}`, items: items(fields) },
          ...(line ? [{ group: `For each line of the ${one}`, items: items(line, LINE) }] : []),
          {
            group: 'Or else',
            items: [
              {
                value: OWN,
                label: line ? `Own field of the ${one}` : 'A field of its own',
              },
              ...(line ? [{ value: OWN_LINE, label: 'Own field of the line' }] : []),
              { value: OUT, label: 'Left out' },
            ],
          },
        ]}
        onChange={(chosen) => {
          if (chosen === OUT) onChange(null, isLine);
          else if (chosen === OWN || chosen === OWN_LINE) onChange(own, chosen === OWN_LINE);
          else if (chosen?.startsWith(LINE)) onChange(chosen.slice(LINE.length), true);
          else if (chosen !== null) onChange(chosen, false);
        }}
      />
      {isOwn && (
        <TextInput
          aria-label={`Name of the field for ${column}`}
          flex={1}
          miw={0}
          maw={180}
          value={draft ?? value}
          onChange={({ currentTarget }) => setDraft(currentTarget.value)}
          onBlur={commit}
          onKeyDown={(event) => event.key === 'Enter' && commit()}
          styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 } }}
        />
      )}
    </Group>
  );
}
