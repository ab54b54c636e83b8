import { useEffect, useRef, useState, type CSSProperties } from 'react';
import { valueAt, type BlockDefinition } from '@carafe/core/blocks';
import {
  BLOCKS,
  findNode,
  isBlock,
  itemsOf,
  NO_SOURCES,
  type RichText,
} from '@carafe/core/template';
import { useAppSelector } from '../../app/store';
import { ScopeProvider } from '../../parts/words/scope';
import { LineField, RichField } from '../../parts/words/WordsEditor';
import type { Box, FieldBox } from './frame';
import { editableAt, inPlaceField } from './inPlaceField';
import { useEdit } from './useEdit';
import { useLoopScope, useNodeScope } from './useNodeScope';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** Whether words stand as a block was born with them: then they are written over. */
function areBorn(
  kind: BlockDefinition<string, never> | null,
  path: string,
  value: unknown,
): boolean {
  const born = kind && valueAt(kind.make('', NO_SOURCES), path);
  return born !== undefined && JSON.stringify(born) === JSON.stringify(value);
}

interface Props {
  id: string;
  box: Box;
  /** The words of one field of the node, where it has several. */
  words: FieldBox | null;
  onDone: () => void;
}

/** Edits the words of a block where they stand, in the mail's own type. */
export function InPlace({ id, box, words, onDone }: Props) {
  const template = useAppSelector((s) => s.desk.template);
  const { put } = useEdit();
  const { inner, outerLoops } = useNodeScope(id);
  const node = template ? findNode(template, id)?.node : undefined;
  const kind = node && isBlock(node) ? (BLOCKS[node.kind] as BlockDefinition<string, never>) : null;
  const items = node && itemsOf(node);
  const member = useLoopScope([
    ...outerLoops,
    ...(node?.loop ? [node.loop] : []),
    ...(items ? [items] : []),
  ]);
  const at = words && node ? editableAt(node, words.path) : null;
  const field = at?.field ?? inPlaceField(node);
  const path = at?.path ?? field?.path ?? '';
  const editable = field !== undefined;
  const [focus] = useState<'all' | 'end'>(() =>
    node && field && areBorn(kind, path, valueAt(node, path)) ? 'all' : 'end',
  );
  const done = useRef(onDone);
  done.current = onDone;

  useEffect(() => {
    if (!editable) done.current();
  }, [editable]);
  const area = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const outside = (event: Event) => {
      const target = event.target as Element;
      // Pickers and forms that belong to the words stand elsewhere on the page.
      if (
        !area.current?.contains(target) &&
        !target.closest('[data-keep-open], .mantine-Popover-dropdown')
      )
        done.current();
    };
    document.addEventListener('mousedown', outside);
    return () => document.removeEventListener('mousedown', outside);
  }, []);

  if (!template || !node || !field) return null;
  const looks = at ? undefined : kind?.textLooks?.(node as never, template.style);
  const place = at && words ? words : box;
  const css = {
    left: place.left,
    top: place.top,
    width: at ? Math.max(place.width + 8, 140) : place.width,
    minHeight: place.height,
    background: '#fff',
    ...(at && (words?.css as CSSProperties | undefined)),
    ...(looks && {
      color: looks.colour,
      fontFamily: looks.font,
      fontSize: looks.size,
      lineHeight: looks.lineHeight,
      textAlign: looks.align,
      padding: `${looks.padding.top}px 24px ${looks.padding.bottom}px`,
    }),
  };
  const value = valueAt(node, path);
  const edited = (to: unknown) => put(id, `Edit ${field.label.toLowerCase()}`, path, to);
  return (
    <div
      ref={area}
      className="in-place"
      style={css}
      data-testid="in-place"
      onKeyDown={(event) => {
        // What belongs to the words and stands elsewhere on the page closes itself.
        if (event.key !== 'Escape' || !area.current?.contains(event.target as Element)) return;
        event.stopPropagation();
        onDone();
      }}
    >
      <ScopeProvider value={at?.inList ? member : inner}>
        {field.control === 'rich' ? (
          <RichField
            label={t('labelInPlace', { label: field.label })}
            bare
            autoFocus={focus}
            value={value as RichText}
            onChange={edited}
          />
        ) : (
          <LineField
            label={t('labelInPlace', { label: field.label })}
            bare
            autoFocus={focus}
            value={String(value ?? '')}
            onChange={edited}
          />
        )}
      </ScopeProvider>
    </div>
  );
}
