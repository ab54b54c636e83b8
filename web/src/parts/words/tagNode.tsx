import { useState } from 'react';
import { Popover } from '@mantine/core';
import { InputRule, Mark, mergeAttributes, Node, nodePasteRule } from '@tiptap/core';
import { NodeSelection } from '@tiptap/pm/state';
import { NodeViewWrapper, ReactNodeViewRenderer, type ReactNodeViewProps } from '@tiptap/react';
import { printIn, useScope } from './scope';
import { TagForm } from './TagForm';
import classes from './words.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

/** A tag in an editor: the recipient's real value, underlined with dots; a click opens its form. */
function TagChip({ node, updateAttributes, deleteNode, selected, editor }: ReactNodeViewProps) {
  const [opened, setOpened] = useState(false);
  const formula = String(node.attrs['formula']);
  const value = printIn(useScope(), formula);
  const blank = value !== null && value.trim() === '';
  return (
    <NodeViewWrapper as="span">
      <Popover
        opened={opened}
        onChange={setOpened}
        onClose={() => editor.commands.focus()}
        width={300}
        position="bottom-start"
        shadow="sm"
        trapFocus
      >
        <Popover.Target>
          <span
            role="button"
            tabIndex={-1}
            className={classes.tag}
            data-blank={blank || undefined}
            data-selected={selected || undefined}
            title={`{{ ${formula} }}`}
            aria-label={t('mergeTagFormula', { formula })}
            onClick={() => setOpened(true)}
          >
            {blank ? t('blank') : (value ?? formula)}
          </span>
        </Popover.Target>
        <Popover.Dropdown data-keep-open>
          <TagForm
            formula={formula}
            onChange={(next) => updateAttributes({ formula: next })}
            onRemove={() => {
              setOpened(false);
              deleteNode();
            }}
          />
        </Popover.Dropdown>
      </Popover>
    </NodeViewWrapper>
  );
}

/** A merge tag as an inline node. Typing {{ a formula }} makes one. */
export const TagNode = Node.create({
  name: 'tag',
  group: t('inline'),
  inline: true,
  atom: true,
  selectable: true,
  addAttributes: () => ({ formula: { default: '' } }),
  parseHTML: () => [
    {
      tag: 'span[data-tag]',
      getAttrs: (element) => ({ formula: element.getAttribute('data-tag') }),
    },
  ],
  renderHTML: ({ node, HTMLAttributes }) => [
    'span',
    mergeAttributes(HTMLAttributes, { 'data-tag': node.attrs['formula'] as string }),
  ],
  renderText: ({ node }) => `{{ ${String(node.attrs['formula'])} }}`,
  // A click opens the tag's form; it does not select the tag, or the next letter would replace it.
  addNodeView: () =>
    ReactNodeViewRenderer(TagChip, { stopEvent: ({ event }) => event.type === 'mousedown' }),
  // The arrows select a tag as one, Enter opens its form, Delete takes it away as one.
  addKeyboardShortcuts() {
    return {
      Enter: ({ editor }) => {
        const { selection } = editor.state;
        if (!(selection instanceof NodeSelection) || selection.node.type.name !== this.name)
          return false;
        const shown = editor.view.nodeDOM(selection.from);
        if (shown instanceof HTMLElement)
          shown.querySelector<HTMLElement>('[role=button]')?.click();
        return true;
      },
    };
  },
  addPasteRules() {
    return [
      nodePasteRule({
        find: /\{\{\s*([^{}]+?)\s*\}\}/g,
        type: this.type,
        getAttributes: ([, formula]) => ({ formula }),
      }),
    ];
  },
  addInputRules() {
    return [
      new InputRule({
        find: /\{\{\s*([^{}]+?)\s*\}\}$/,
        handler: ({ range, match, chain }) => {
          chain()
            .insertContentAt(range, { type: 'tag', attrs: { formula: match[1] ?? '' } })
            .run();
        },
      }),
    ];
  },
});

/** A link whose address may hold merge tags. */
export const LinkMark = Mark.create({
  name: 'link',
  inclusive: false,
  addAttributes: () => ({ href: { default: '' } }),
  parseHTML: () => [{ tag: 'a[href]' }],
  // The address is never put into the page: an editor is no place to follow links.
  renderHTML: ({ mark }) => ['span', { class: classes.link, title: String(mark.attrs['href']) }, 0],
});
