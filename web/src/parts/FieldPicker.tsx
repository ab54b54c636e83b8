import { cloneElement, useMemo, useState, type ReactElement } from 'react';
import { Popover, ScrollArea, TextInput, UnstyledButton } from '@mantine/core';
import { IconSearch } from '@tabler/icons-react';
import { fieldPaths, kindName, type FieldPath, type Shape } from '@carafe/core/shape';
import { FillGlyph } from './FillGlyph';
import classes from './parts.module.css';

interface Props {
  shape: Shape;
  frames?: readonly { shape: Shape; as: string | null }[];
  /** Only fields for which this holds. */
  only?: (path: FieldPath) => boolean;
  onPick: (path: FieldPath) => void;
  /** The button that opens it. */
  children: ReactElement<{ onClick?: () => void }>;
}

const MAX_SHOWN = 120;

/** A list of the fields that the data has, with how often each is filled and a sample. */
export function FieldPicker({ shape, frames, only, onPick, children }: Props) {
  const [opened, setOpened] = useState(false);
  return (
    <Popover
      opened={opened}
      onChange={setOpened}
      width={400}
      position="bottom-end"
      shadow="sm"
      trapFocus
      returnFocus
    >
      <Popover.Target>
        {cloneElement(children, { onClick: () => setOpened((o) => !o) })}
      </Popover.Target>
      <Popover.Dropdown p={8} data-keep-open>
        {opened && (
          <FieldList
            shape={shape}
            {...(frames && { frames })}
            {...(only && { only })}
            onPick={(path) => {
              setOpened(false);
              onPick(path);
            }}
          />
        )}
      </Popover.Dropdown>
    </Popover>
  );
}

function FieldList({ shape, frames, only, onPick }: Omit<Props, 'children'>) {
  const [query, setQuery] = useState('');
  const all = useMemo(
    () => fieldPaths(shape, frames).filter(only ?? (() => true)),
    [shape, frames, only],
  );
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all
    .filter(({ path, field }) => {
      const text = `${path} ${field.samples.join(' ')}`.toLowerCase();
      return words.every((word) => text.includes(word));
    })
    .slice(0, MAX_SHOWN);
  const [active, setActive] = useState(0);
  const chosen = Math.min(active, found.length - 1);
  return (
    <>
      <TextInput
        aria-label="Search fields"
        placeholder="Search fields and samples"
        leftSection={<IconSearch size={14} />}
        value={query}
        data-autofocus
        onChange={(event) => {
          setQuery(event.currentTarget.value);
          setActive(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            setActive(
              Math.max(
                0,
                Math.min(found.length - 1, chosen + (event.key === 'ArrowDown' ? 1 : -1)),
              ),
            );
          }
          const hit = found[chosen];
          if (event.key === 'Enter' && hit) {
            event.preventDefault();
            onPick(hit);
          }
        }}
      />
      <ScrollArea.Autosize mah={280} mt={6} type="auto">
        <div role="listbox" aria-label="Fields">
          {found.map((path, i) => (
            <div key={path.path}>
              {path.group !== found[i - 1]?.group && (
                <div className={classes.group}>{path.group}</div>
              )}
              <FieldRow path={path} active={i === chosen} onPick={onPick} />
            </div>
          ))}
          {found.length === 0 && (
            <div className={classes.none}>No field has “{query}” in its name or samples.</div>
          )}
        </div>
      </ScrollArea.Autosize>
    </>
  );
}

function FieldRow({
  path,
  active,
  onPick,
}: {
  path: FieldPath;
  active: boolean;
  onPick: (path: FieldPath) => void;
}) {
  const { field } = path;
  return (
    <UnstyledButton
      role="option"
      aria-selected={active}
      className={classes.field}
      data-active={active || undefined}
      onClick={() => onPick(path)}
    >
      <FillGlyph share={field.of === 0 ? 0 : field.filled / field.of} />
      <span className={classes.path}>{path.path}</span>
      <span className={classes.sample}>{field.samples[0] ?? kindName(field.shape)}</span>
    </UnstyledButton>
  );
}
