import { useId, useRef, type ReactNode } from 'react';
import { ActionIcon, Button, Menu } from '@mantine/core';
import { arrayMove } from '@dnd-kit/sortable';
import { IconPlus, IconX } from '@tabler/icons-react';
import { createNextState } from '@reduxjs/toolkit';
import {
  memberKind,
  putAt,
  type ListField,
  type MemberKind,
  type NodeField,
} from '@carafe/core/blocks';
import type { Put } from './put';
import { SortableList, useSorted } from '../../../parts/SortableList';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

interface Props {
  field: ListField;
  members: object[];
  /** The name of a member of the node's own list. */
  as: string;
  onChange: (members: object[]) => void;
  /** The form of one member. */
  children: (form: MemberForm) => ReactNode;
}

interface MemberForm {
  owner: object;
  fields: readonly NodeField[];
  onPut: Put;
}

/** A list whose members are put in order by dragging or by keys, added and taken out. */
export function ListForm({ field, members, as, onChange, children }: Props) {
  const ids = useStableIds(members.length);
  const onMove = (from: number, to: number) => {
    ids.list = arrayMove(ids.list, from, to);
    onChange(arrayMove(members, from, to));
  };
  const free = field.kinds.filter(
    (kind) => !kind.once || !members.some((member) => memberKind(field, member) === kind),
  );
  const add = (kind: MemberKind) => onChange([...members, kind.make(as)]);
  return (
    <div role="group" aria-label={field.label}>
      <SortableList ids={ids.list} onMove={onMove}>
        {members.map((member, i) => (
          <Member
            key={ids.list[i]}
            id={ids.list[i] ?? ''}
            name={memberKind(field, member)?.name ?? ''}
            removable={members.length > field.least}
            onRemove={() => {
              ids.list = ids.list.filter((_, at) => at !== i);
              onChange(members.filter((_, at) => at !== i));
            }}
          >
            {children({
              owner: member,
              fields: memberKind(field, member)?.fields ?? [],
              onPut: (path, value, _, also = {}) =>
                onChange(
                  createNextState(members, (draft) => {
                    const own = draft[i];
                    if (!own) return;
                    putAt(own, path, value);
                    for (const [other, given] of Object.entries(also)) putAt(own, other, given);
                  }),
                ),
            })}
          </Member>
        ))}
      </SortableList>
      {members.length < field.most && free.length > 0 && (
        <AddMember label={field.addLabel} kinds={free} onAdd={add} />
      )}
    </div>
  );
}

/** Names for members that have none of their own, kept while they are moved about. */
function useStableIds(count: number): { list: string[] } {
  const base = useId();
  const made = useRef(0);
  const ids = useRef<{ list: string[] }>({ list: [] });
  while (ids.current.list.length < count) ids.current.list.push(`${base}${made.current++}`);
  if (ids.current.list.length > count) ids.current.list = ids.current.list.slice(0, count);
  return ids.current;
}

function AddMember({
  label,
  kinds,
  onAdd,
}: {
  label: string;
  kinds: readonly MemberKind[];
  onAdd: (kind: MemberKind) => void;
}) {
  const [only] = kinds;
  const button = (onClick?: () => void) => (
    <Button variant="default" leftSection={<IconPlus size={14} />} {...(onClick && { onClick })}>
      {label}
    </Button>
  );
  if (kinds.length === 1 && only) return button(() => onAdd(only));
  return (
    <Menu withinPortal={false}>
      <Menu.Target>{button()}</Menu.Target>
      <Menu.Dropdown>
        {kinds.map((kind) => (
          <Menu.Item key={kind.name} onClick={() => onAdd(kind)}>
            {kind.name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}

function Member({
  id,
  name,
  removable,
  onRemove,
  children,
}: {
  id: string;
  name: string;
  removable: boolean;
  onRemove: () => void;
  children: ReactNode;
}) {
  const { place, grip } = useSorted(id, name);
  return (
    <div {...place} className={classes.item}>
      <div className={classes.itemHead}>
        {grip}
        <span style={{ flex: 1 }}>{name}</span>
        <ActionIcon
          variant="subtle"
          size={18}
          aria-label={t('removeName', { name })}
          disabled={!removable}
          onClick={onRemove}
        >
          <IconX size={13} />
        </ActionIcon>
      </div>
      {children}
    </div>
  );
}
