import { Extension } from '@tiptap/core';
import { PluginKey } from '@tiptap/pm/state';
import Suggestion, { type SuggestionProps } from '@tiptap/suggestion';

/** A field that is asked for in the midst of words. */
export interface AskedTag {
  /** What was typed behind the braces or the slash. */
  query: string;
  /** Where that stands on the page. */
  at: { left: number; top: number; height: number };
  /** The words that it was typed in. */
  words: HTMLElement;
  /** Puts a tag in the place of what was typed. */
  put: (formula: string) => void;
}

interface Hears {
  onAsk: (asked: AskedTag | null) => void;
  /** A key that is pressed meanwhile; whether it was for the list. */
  onKey: (event: KeyboardEvent) => boolean;
}

/** After these a field is asked for: braces anywhere, a slash where a word begins. */
const ASKS = [
  { char: '{{', allowSpaces: true, allowedPrefixes: null },
  { char: '/', allowSpaces: false, allowedPrefixes: [' ', '('] },
];

/** Typing braces, or a slash before a word, asks for a field by its name. */
export function askForTag({ onAsk, onKey }: Hears): Extension {
  const tell = ({ query, clientRect, range, editor }: SuggestionProps) => {
    const at = clientRect?.();
    if (!at) return;
    onAsk({
      query: query.trim(),
      at: { left: at.left, top: at.top, height: at.height },
      words: editor.view.dom,
      put: (formula) =>
        editor.chain().focus().insertContentAt(range, { type: 'tag', attrs: { formula } }).run(),
    });
  };
  return Extension.create({
    name: 'askForTag',
    addProseMirrorPlugins() {
      return ASKS.map((how) =>
        Suggestion({
          ...how,
          editor: this.editor,
          pluginKey: new PluginKey(`ask ${how.char}`),
          // Whoever only goes through words with the arrows asks for nothing; nor does a field that shows the same words.
          shouldShow: ({ transaction, editor }) => transaction.docChanged && editor.isFocused,
          render: () => ({
            onStart: tell,
            onUpdate: tell,
            onExit: () => onAsk(null),
            onKeyDown: ({ event }) => onKey(event),
          }),
        }),
      );
    },
  });
}
