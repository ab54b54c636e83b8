import { useEffect, useRef } from 'react';
import { valueAt, type BlockDefinition } from '@carafe/core/blocks';
import { BLOCKS, findNode, isBlock, type RichText } from '@carafe/core/template';
import { useAppSelector } from '../../app/store';
import { ScopeProvider } from '../../parts/words/scope';
import { LineField, RichField } from '../../parts/words/WordsEditor';
import type { Box } from './frame';
import { inPlaceField } from './inPlaceField';
import { useEdit } from './useEdit';
import { useNodeScope } from './useNodeScope';

/** Edits the words of a block where they stand, in the mail's own type. */
export function InPlace({ id, box, onDone }: { id: string; box: Box; onDone: () => void }) {
  const template = useAppSelector((s) => s.desk.template);
  const { put } = useEdit();
  const { inner } = useNodeScope(id);
  const node = template ? findNode(template, id)?.node : undefined;
  const kind = node && isBlock(node) ? (BLOCKS[node.kind] as BlockDefinition<string, never>) : null;
  const field = inPlaceField(node);
  const editable = field !== undefined;
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
  const looks = kind?.textLooks?.(node as never, template.style);
  const css = {
    left: box.left,
    top: box.top,
    width: box.width,
    minHeight: box.height,
    background: '#fff',
    ...(looks && {
      color: looks.colour,
      fontFamily: looks.font,
      fontSize: looks.size,
      lineHeight: looks.lineHeight,
      textAlign: looks.align,
      padding: `${looks.padding.top}px 24px ${looks.padding.bottom}px`,
    }),
  };
  const value = valueAt(node, field.path);
  const edited = (to: unknown) => put(id, `Edit ${field.label.toLowerCase()}`, field.path, to);
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
      <ScopeProvider value={inner}>
        {field.control === 'rich' ? (
          <RichField
            label={`${field.label} in place`}
            bare
            autoFocus
            value={value as RichText}
            onChange={edited}
          />
        ) : (
          <LineField
            label={`${field.label} in place`}
            bare
            autoFocus
            value={String(value ?? '')}
            onChange={edited}
          />
        )}
      </ScopeProvider>
    </div>
  );
}
