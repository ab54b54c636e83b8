import { type ReactNode } from 'react';
import { ActionIcon } from '@mantine/core';
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { IconGripVertical } from '@tabler/icons-react';
import { wordsOf } from '../words';

const t = wordsOf('parts');

interface Props {
  /** Of the members, in their order. */
  ids: readonly string[];
  onMove: (from: number, to: number) => void;
  /** Is told when a member is picked up and when it is put down: Escape is the list’s meanwhile. */
  onHold?: (isHeld: boolean) => void;
  /** Each member uses `useSorted` by its id. */
  children: ReactNode;
}

/** A list whose members are put in order by dragging, or by Space and the arrow keys. */
export function SortableList({ ids, onMove, onHold, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragStart={() => onHold?.(true)}
      onDragCancel={() => onHold?.(false)}
      onDragEnd={({ active, over }) => {
        onHold?.(false);
        const from = ids.indexOf(String(active.id));
        const to = ids.indexOf(String(over?.id));
        if (from >= 0 && to >= 0 && from !== to) onMove(from, to);
      }}
      accessibility={{
        announcements: announcements((id) => ids.indexOf(String(id)), ids.length),
        screenReaderInstructions: INSTRUCTIONS,
      }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

const INSTRUCTIONS = {
  draggable: t('toMoveThisPressSpaceUse'),
};

/** What is said while a member is moved; `at` is its place in the list, from 0. */
function announcements(at: (id: UniqueIdentifier) => number, count: number): Announcements {
  const place = (id: UniqueIdentifier) => `${at(id) + 1} of ${count}`;
  return {
    onDragStart: ({ active }) => t('pickedUpId', { id: place(active.id) }),
    onDragOver: ({ over }) => (over ? t('nowAtId', { id: place(over.id) }) : undefined),
    onDragEnd: ({ active }) => t('movedToId', { id: place(active.id) }),
    onDragCancel: ({ active }) => t('stillAtId', { id: place(active.id) }),
  };
}

/** A member of a sorted list: what its element needs, and the grip by which it is moved. */
export function useSorted(id: string, name: string) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return {
    place: {
      ref: setNodeRef,
      style: { transform: CSS.Translate.toString(transform), transition },
    },
    grip: (
      <ActionIcon
        variant="subtle"
        size={18}
        {...attributes}
        {...listeners}
        aria-label={t('reorderName', { name })}
        title={t('dragToMoveOrPressSpace')}
      >
        <IconGripVertical size={13} />
      </ActionIcon>
    ),
  };
}
