import { useEffect, useRef } from 'react';
import { findNode, type BlockOf } from '@carafe/core/template';
import { useAppSelector } from '../../app/store';
import { ScopeProvider } from '../../parts/words/scope';
import { LineField, RichField } from '../../parts/words/WordsEditor';
import type { Box } from './frame';
import { useEdit } from './useEdit';
import { useNodeScope } from './useNodeScope';

const HEADING_SIZE = { 1: 30, 2: 22, 3: 17 } as const;

/** Edits the words of a block where they stand, in the mail's own type. */
export function InPlace({ id, box, onDone }: { id: string; box: Box; onDone: () => void }) {
  const template = useAppSelector((s) => s.desk.template);
  const { changeById } = useEdit();
  const { inner } = useNodeScope(id);
  const node = template ? findNode(template, id)?.node : undefined;
  const editable = node?.kind === 'text' || node?.kind === 'heading';
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

  if (!template || !node || !editable) return null;
  const { style } = template;
  const heading = node.kind === 'heading';
  const css = {
    left: box.left,
    top: box.top,
    width: box.width,
    minHeight: box.height,
    background: '#fff',
    color: node.colour ?? style.ink,
    fontFamily: heading ? style.heading_font : style.body_font,
    fontSize: heading ? HEADING_SIZE[node.level] : (node.size ?? style.text_size),
    lineHeight: heading ? 1.25 : 1.5,
    textAlign: node.align ?? ('left' as const),
    padding: `${node.padding?.top ?? (heading ? 12 : 8)}px 24px ${node.padding?.bottom ?? 8}px`,
  };
  return (
    <div
      ref={area}
      className="in-place"
      style={css}
      data-testid="in-place"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onDone();
      }}
    >
      <ScopeProvider value={inner}>
        {node.kind === 'text' ? (
          <RichField
            label="Text in place"
            bare
            autoFocus
            value={node.text}
            onChange={(text) =>
              changeById<BlockOf<'text'>>(id, 'Edit the text', (n) => void (n.text = text))
            }
          />
        ) : (
          <LineField
            label="Heading in place"
            bare
            autoFocus
            value={node.text}
            onChange={(text) =>
              changeById<BlockOf<'heading'>>(id, 'Edit the heading', (n) => void (n.text = text))
            }
          />
        )}
      </ScopeProvider>
    </div>
  );
}
