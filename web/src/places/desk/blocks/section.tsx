import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { SegmentedControl } from '@mantine/core';
import { nanoid } from 'nanoid';
import {
  columnWidths,
  movedBorder,
  NARROWEST,
  type Section,
  type TemplateNode,
} from '@carafe/core/template';
import { useEdit } from '../useEdit';
import classes from '../inspector/Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** How many columns a section has, and how wide they are. */
export function Form({ node }: { node: TemplateNode }) {
  const { changeById } = useEdit();
  if (node.kind !== 'section') return null;
  const setColumns = (count: number) =>
    changeById<Section>(node.id, 'Change the columns', (section) => {
      while (section.columns.length < count)
        section.columns.push({ kind: 'column', id: nanoid(8), blocks: [] });
      while (section.columns.length > count) {
        // What stood in a column that goes is kept: it moves to the end of the one before.
        const gone = section.columns.pop();
        section.columns.at(-1)?.blocks.push(...(gone?.blocks ?? []));
      }
      // What was set for another number of columns says nothing of these.
      for (const column of section.columns) delete column.width;
    });
  return (
    <div>
      <div className="label">{t('columns')}</div>
      <SegmentedControl
        size="xs"
        fullWidth
        aria-label={t('columns')}
        value={String(node.columns.length)}
        data={['1', '2', '3', '4']}
        onChange={(count) => setColumns(Number(count))}
      />
      {node.columns.length > 1 && <Widths section={node} />}
    </div>
  );
}

/** The columns as they share the width, with a border to move between each two. */
function Widths({ section }: { section: Section }) {
  const { changeById } = useEdit();
  const bar = useRef<HTMLDivElement>(null);
  const widths = columnWidths(section.columns);
  const move = (index: number, to: number) => {
    const moved = movedBorder(section.columns, index, to);
    changeById<Section>(section.id, 'Change the widths', (draft) =>
      draft.columns.forEach((column, i) => {
        const width = moved[i];
        if (width !== undefined) column.width = width;
      }),
    );
  };
  return (
    <div ref={bar} className={classes.widths}>
      {widths.map((width, i) => (
        <span key={section.columns[i]?.id} style={{ width: `${width}%` }}>
          {Math.round(width)} %
        </span>
      ))}
      {widths.slice(0, -1).map((_, i) => {
        const at = widths.slice(0, i + 1).reduce((sum, width) => sum + width, 0);
        const dragged = (event: PointerEvent<HTMLButtonElement>) => {
          const box = bar.current?.getBoundingClientRect();
          if (!box || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
          move(i, Math.round((100 * (event.clientX - box.left)) / box.width));
        };
        const pressed = (event: KeyboardEvent) => {
          const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
          if (by === undefined) return;
          event.preventDefault();
          move(i, at + by * (event.shiftKey ? 10 : 1));
        };
        return (
          <button
            key={section.columns[i]?.id}
            type="button"
            role="slider"
            className={classes.handle}
            style={{ left: `${at}%` }}
            aria-label={t('borderBetweenColumnsIAndI2', { i: i + 1, i2: i + 2 })}
            aria-valuenow={Math.round(at)}
            aria-valuemin={NARROWEST}
            aria-valuemax={100 - NARROWEST}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={dragged}
            onKeyDown={pressed}
          />
        );
      })}
    </div>
  );
}
