import { useId, useMemo } from 'react';
import { ActionIcon, Input, Textarea } from '@mantine/core';
import { IconListSearch } from '@tabler/icons-react';
import { check, parse, type FormulaFinding, type ScopeFrame, type Use } from '@carafe/core/formula';
import type { Shape } from '@carafe/core/shape';
import { FieldPicker } from './FieldPicker';
import { Findings } from './Findings';

interface Props {
  label: string;
  description?: string;
  value: string;
  onChange: (value: string) => void;
  shape: Shape;
  frames?: readonly ScopeFrame[];
  use: Use;
  placeholder?: string;
  /** What the formula gives for the recipient shown. */
  now?: string | null;
}

function findingsOf(
  source: string,
  shape: Shape,
  frames: readonly ScopeFrame[],
  use: Use,
): FormulaFinding[] {
  if (source.trim() === '') return [];
  const parsed = parse(source);
  if (parsed.ok) return check(parsed.value, shape, { use, frames }).findings;
  const { start, end, column, message } = parsed.error;
  return [{ severity: 'error', start, end, message: `${message} (column ${column})` }];
}

const NO_FRAMES: readonly ScopeFrame[] = [];

/** A formula as text, with the fields to choose from and what the checker says of it. */
export function FormulaField({
  label,
  description,
  value,
  onChange,
  shape,
  frames = NO_FRAMES,
  use,
  placeholder,
  now,
}: Props) {
  const id = useId();
  const findings = useMemo(
    () => findingsOf(value, shape, frames, use),
    [value, shape, frames, use],
  );
  const wantsList = use === 'list';
  return (
    <Input.Wrapper label={label} id={id} size="xs" {...(description && { description })}>
      <Textarea
        id={id}
        autosize
        minRows={1}
        maxRows={6}
        value={value}
        spellCheck={false}
        placeholder={placeholder}
        error={findings.some((f) => f.severity === 'error')}
        onChange={(event) => onChange(event.currentTarget.value)}
        styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 } }}
        rightSection={
          <FieldPicker
            shape={shape}
            frames={frames}
            {...(wantsList && { only: isList })}
            onPick={({ path }) =>
              onChange(value.trim() === '' || wantsList ? path : `${value.trimEnd()} ${path}`)
            }
          >
            <ActionIcon
              variant="subtle"
              size="sm"
              title="Choose a field"
              aria-label={`Choose a field for ${label}`}
            >
              <IconListSearch size={15} />
            </ActionIcon>
          </FieldPicker>
        }
      />
      {now !== undefined && now !== null && value.trim() !== '' && (
        <div className="now">Here: {now === '' ? 'blank' : now}</div>
      )}
      <Findings
        findings={findings}
        onRepair={({ repair, start, end }) => {
          if (repair) onChange(value.slice(0, start) + repair.text + value.slice(end));
        }}
      />
    </Input.Wrapper>
  );
}

function isList({ field }: { field: { shape: Shape } }): boolean {
  return field.shape.kind === 'list';
}
