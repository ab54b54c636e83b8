import { useState } from 'react';
import { Group, Select, TextInput } from '@mantine/core';
import type { TargetField } from '@carafe/core/intake';

const OUT = '\u0000out';
const OWN = '\u0000own';

/** Which field a column fills: one that the record knows, one of its own, or none. */
export function FieldChoice({
  column,
  value,
  own,
  fields,
  many,
  list,
  onChange,
}: {
  column: string;
  value: string | null;
  /** The name that a field of its own would get. */
  own: string;
  fields: readonly TargetField[];
  many: string;
  list?: string;
  onChange: (value: string | null) => void;
}) {
  const isKnown = value !== null && fields.some((f) => f.name === value);
  const isOwn = value !== null && !isKnown;
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const name = draft?.trim();
    setDraft(null);
    if (name) onChange(name);
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
        value={value === null ? OUT : isKnown ? value : OWN}
        data={[
          {
            group: list ? `Of each of the ${list}` : `Of a ${many}`,
            items: fields.map(({ name, label, required }) => ({
              value: name,
              label: required ? `${label} (needed)` : label,
            })),
          },
          {
            group: 'Or else',
            items: [
              { value: OWN, label: 'A field of its own' },
              { value: OUT, label: 'Left out' },
            ],
          },
        ]}
        onChange={(chosen) => {
          if (chosen === OUT) onChange(null);
          else if (chosen === OWN) onChange(own);
          else if (chosen !== null) onChange(chosen);
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
