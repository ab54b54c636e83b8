import { useEffect, useRef, useState } from 'react';
import { ActionIcon, Button, Group, Popover, TextInput, Tooltip } from '@mantine/core';
import {
  IconBold,
  IconGlassFull,
  IconItalic,
  IconLink,
  IconList,
  IconListNumbers,
  IconUnderline,
} from '@tabler/icons-react';
import { notifications } from '@mantine/notifications';
import type { JSONContent } from '@tiptap/core';
import { Fragment, Slice } from '@tiptap/pm/model';
import { NodeSelection } from '@tiptap/pm/state';
import { EditorContent, useEditor, useEditorState, type Editor } from '@tiptap/react';
import { fromRunning, toRunning, type RichText } from '@carafe/core/template';
import { singleValues } from '@carafe/core/shape';
import { FieldPicker } from '../FieldPicker';
import { askForTag, type AskedTag } from './askForTag';
import { inlinesOf, toRichText } from './convert';
import { LINE, RICH } from './extensions';
import { firstFormula } from './firstFormula';
import { cleanPasted, onOneLine, weightOfPaste } from './paste';
import { useScope } from './scope';
import { TagList } from './TagList';
import classes from './words.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

/** Says what became of what was pasted. */
function tell(said: readonly string[]): void {
  if (said.length > 0) notifications.show({ title: t('pasted'), message: said.join(' ') });
}

interface EditorProps {
  label: string;
  document: JSONContent;
  rich: boolean;
  onChange: (document: JSONContent) => void;
  /** Begins to write: at the end, or over all that stands there. */
  autoFocus?: 'end' | 'all';
  /** Shows no frame of its own, for editing in place. */
  bare?: boolean;
}

function Words({ label, document, rich, onChange, autoFocus, bare }: EditorProps) {
  const told = useRef(JSON.stringify(document));
  const change = useRef(onChange);
  change.current = onChange;
  const [asked, setAsked] = useState<AskedTag | null>(null);
  const keys = useRef<((event: KeyboardEvent) => boolean) | null>(null);
  const [asking] = useState(() =>
    askForTag({ onAsk: setAsked, onKey: (event) => keys.current?.(event) ?? false }),
  );
  const editor = useEditor({
    extensions: [...(rich ? RICH : LINE), asking],
    content: document,
    autofocus: autoFocus ?? false,
    editorProps: {
      attributes: { 'aria-label': label, role: 'textbox', 'aria-multiline': String(rich) },
      // In one line nothing breaks it; but a tag that is selected is opened, and a field that was asked for taken.
      handleKeyDown: ({ state }, event) => {
        if (rich || event.key !== 'Enter' || state.selection instanceof NodeSelection) return false;
        keys.current?.(event);
        return true;
      },
      transformPastedHTML: (html) => {
        const pasted = cleanPasted(html);
        if (rich) tell(pasted.dropped);
        return pasted.html;
      },
      handlePaste: (view, event) => {
        const text = event.clipboardData?.getData('text/plain') ?? '';
        const hasHtml = event.clipboardData?.types.includes('text/html') ?? false;
        if (!hasHtml && text === '' && (event.clipboardData?.files.length ?? 0) > 0) {
          tell([t('textCannotHoldPicturesOrFiles')]);
          return true;
        }
        tell([weightOfPaste(text)].filter((said) => said !== null));
        if (rich) return false;
        const fragment = Fragment.fromJSON(view.state.schema, fromRunning(onOneLine(text)));
        view.dispatch(view.state.tr.replaceSelection(new Slice(fragment, 0, 0)).scrollIntoView());
        return true;
      },
    },
    onUpdate: ({ editor: now }) => {
      const json = now.getJSON();
      told.current = JSON.stringify(json);
      change.current(json);
    },
  });
  // What was changed elsewhere (undone, repaired) is shown; what came from here is here already.
  const given = JSON.stringify(document);
  useEffect(() => {
    if (
      !editor ||
      given === told.current ||
      given === JSON.stringify(cleaned(editor.getJSON(), rich))
    )
      return;
    told.current = given;
    editor.commands.setContent(JSON.parse(given) as JSONContent, { emitUpdate: false });
  }, [editor, given, rich]);
  if (!editor) return null;
  return (
    <div className={bare ? classes.bare : classes.editor} data-rich={rich || undefined}>
      <Toolbar editor={editor} rich={rich} label={label} />
      <EditorContent editor={editor} className={classes.content} />
      {asked && <TagList asked={asked} keys={keys} />}
    </div>
  );
}

function cleaned(json: JSONContent, rich: boolean): JSONContent {
  if (rich) return toRichText(json);
  return lineDocument(toRunning(inlinesOf(json.content?.[0]?.content)));
}

function Toolbar({ editor, rich, label: of }: { editor: Editor; rich: boolean; label: string }) {
  const scope = useScope();
  const on = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive('bold'),
      italic: e.isActive('italic'),
      underline: e.isActive('underline'),
      bullets: e.isActive('bulletList'),
      numbers: e.isActive('orderedList'),
    }),
  });
  const button = (label: string, active: boolean, ButtonIcon: typeof IconBold, run: () => void) => (
    <Tooltip label={label}>
      <ActionIcon
        variant={active ? 'light' : 'subtle'}
        size="sm"
        aria-label={label}
        aria-pressed={active}
        onMouseDown={(event) => event.preventDefault()}
        onClick={run}
      >
        <ButtonIcon size={15} />
      </ActionIcon>
    </Tooltip>
  );
  const chain = () => editor.chain().focus();
  return (
    <Group gap={2} className={classes.tools} wrap="nowrap">
      {rich && (
        <>
          {button('Bold', on.bold, IconBold, () => chain().toggleBold().run())}
          {button('Italic', on.italic, IconItalic, () => chain().toggleItalic().run())}
          {button('Underline', on.underline, IconUnderline, () => chain().toggleUnderline().run())}
          {button('Bullets', on.bullets, IconList, () => chain().toggleBulletList().run())}
          {button('Numbers', on.numbers, IconListNumbers, () => chain().toggleOrderedList().run())}
          <LinkButton editor={editor} />
        </>
      )}
      <FieldPicker
        expand={singleValues}
        shape={scope.shape}
        frames={scope.frames}
        onPick={(path) =>
          chain()
            .insertContent({ type: 'tag', attrs: { formula: firstFormula(path) } })
            .run()
        }
      >
        {rich ? (
          <Button
            size="compact-xs"
            variant="subtle"
            color="plum"
            leftSection={<IconGlassFull size={14} />}
            onMouseDown={(event) => event.preventDefault()}
            aria-label={t('insertAFieldInOf', { of })}
          >
            {t('insertField')}
          </Button>
        ) : (
          <ActionIcon
            variant="subtle"
            size="sm"
            color="plum"
            onMouseDown={(event) => event.preventDefault()}
            title={t('insertField')}
            aria-label={t('insertAFieldInOf', { of })}
          >
            <IconGlassFull size={15} />
          </ActionIcon>
        )}
      </FieldPicker>
    </Group>
  );
}

function LinkButton({ editor }: { editor: Editor }) {
  const [opened, setOpened] = useState(false);
  const [href, setHref] = useState('');
  const put = () => {
    const chain = editor.chain().focus().extendMarkRange('link');
    if (href.trim() === '') chain.unsetMark('link').run();
    else chain.setMark('link', { href: href.trim() }).run();
    setOpened(false);
  };
  return (
    <Popover opened={opened} onChange={setOpened} width={300} shadow="sm" trapFocus>
      <Popover.Target>
        <Tooltip label={t('link')}>
          <ActionIcon
            variant={editor.isActive('link') ? 'light' : 'subtle'}
            size="sm"
            aria-label={t('link')}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => {
              setHref(String(editor.getAttributes('link')['href'] ?? ''));
              setOpened((o) => !o);
            }}
          >
            <IconLink size={15} />
          </ActionIcon>
        </Tooltip>
      </Popover.Target>
      <Popover.Dropdown data-keep-open>
        <TextInput
          label={t('linkAddress')}
          description={t('mergeTagsAreAllowedLeaveEmpty')}
          value={href}
          onChange={({ currentTarget: { value } }) => setHref(value)}
          onKeyDown={(event) => event.key === 'Enter' && put()}
        />
        <Group justify="flex-end" mt={8}>
          <Button variant="default" onClick={put}>
            {t('setTheLink')}
          </Button>
        </Group>
      </Popover.Dropdown>
    </Popover>
  );
}

function lineDocument(text: string): JSONContent {
  const content = fromRunning(text);
  return {
    type: 'doc',
    content: [content.length > 0 ? { type: 'paragraph', content } : { type: 'paragraph' }],
  };
}

interface FieldProps<T> {
  label: string;
  value: T;
  onChange: (value: T) => void;
  autoFocus?: 'end' | 'all';
  bare?: boolean;
}

/** Paragraphs and lists with merge tags. */
export function RichField({ value, onChange, ...rest }: FieldProps<RichText>) {
  return (
    <Words
      {...rest}
      rich
      document={value as JSONContent}
      onChange={(json) => onChange(toRichText(json))}
    />
  );
}

/** One line of words with merge tags. */
export function LineField({ value, onChange, ...rest }: FieldProps<string>) {
  return (
    <Words
      {...rest}
      rich={false}
      document={lineDocument(value)}
      onChange={(json) => onChange(toRunning(inlinesOf(json.content?.[0]?.content)))}
    />
  );
}
