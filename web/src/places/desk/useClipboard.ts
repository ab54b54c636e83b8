import { useEffect, useRef } from 'react';
import { notifications } from '@mantine/notifications';
import { nanoid } from 'nanoid';
import {
  chosenNodes,
  clipOf,
  composer,
  findNode,
  pasteNodes,
  placeAtEnd,
  readClip,
  type Block,
  type Section,
} from '@carafe/core/template';
import { store, useAppDispatch } from '../../app/store';
import { notifyRefused } from '../../parts/notify';
import { pastedText } from '../../parts/words/pastedText';
import { deskActions } from './deskSlice';
import { labelOf } from './labelOf';
import { useEdit } from './useEdit';
import { useNodeActions } from './useNodeActions';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

const newId = () => nanoid(8);
const FIELDS = 'input, textarea, select, [contenteditable="true"], [role="dialog"], [role="menu"]';

/** Whether the clipboard is a field's own business, or words on the page are marked. */
function isOthers({ target }: ClipboardEvent, isPaste: boolean): boolean {
  if (target instanceof Element && target.closest(FIELDS)) return true;
  return !isPaste && (document.getSelection()?.toString() ?? '') !== '';
}

/** What was copied last, for menus: they may not read the clipboard. Kept where other templates and windows see it. */
const KEPT = 'carafe.clip';
let here: string | null = null;
let isHereAlone = false;
export const keptClip = {
  write(clip: string): void {
    here = clip;
    try {
      localStorage.setItem(KEPT, clip);
    } catch {
      // Without room for it, it can be pasted in this window alone.
      isHereAlone = true;
      return;
    }
    isHereAlone = false;
  },
  read(): string | null {
    if (isHereAlone) return here;
    try {
      return localStorage.getItem(KEPT) ?? here;
    } catch {
      // A browser that lets nothing be kept has what was copied in this window.
      return here;
    }
  },
};

/** Copies what is selected, as Ctrl+C does. */
export function copySelected(): void {
  const clipboardData = new DataTransfer();
  document.dispatchEvent(new ClipboardEvent('copy', { clipboardData }));
  const clip = clipboardData.getData('text/plain');
  // Where a browser allows it, Ctrl+V knows it too; the menu always does.
  if (clip !== '') navigator.clipboard?.writeText(clip).catch(() => undefined);
}

/** Pastes what was copied last after what is selected, as Ctrl+V does. */
export function pasteKept(): void {
  const clipboardData = new DataTransfer();
  clipboardData.setData('text/plain', keptClip.read() ?? '');
  document.dispatchEvent(new ClipboardEvent('paste', { clipboardData }));
}

/**
 * Copies, cuts and pastes nodes: between templates and windows, as JSON. Words and rich text from
 * elsewhere become a text block.
 */
export function useClipboard(): void {
  const dispatch = useAppDispatch();
  const { change, select } = useEdit();
  const { remove } = useNodeActions();
  const latest = useRef(remove);
  latest.current = remove;
  useEffect(() => {
    const selected = () => {
      const { template, selected: id, also } = store.getState().desk;
      return template && id ? chosenNodes(template, [...also, id]) : [];
    };
    const say = (words: string) => dispatch(deskActions.said(words));
    const onCopy = (event: ClipboardEvent) => {
      const nodes = selected();
      const [first] = nodes;
      if (!first || isOthers(event, false)) return;
      event.preventDefault();
      const clip = clipOf(...nodes);
      event.clipboardData?.setData('text/plain', clip);
      keptClip.write(clip);
      // What stands beside what was cut is selected then, as after deleting.
      if (event.type === 'cut') latest.current();
      const what = nodes.length === 1 ? labelOf(first) : t('numberParts', { number: nodes.length });
      say(`${event.type === 'cut' ? t('cut') : t('copied')}: ${what}.`);
    };
    const put = (nodes: readonly (Section | Block)[]) => {
      const { template, selected: id } = store.getState().desk;
      const after = id && id !== 'envelope' ? id : template ? placeAtEnd(template) : undefined;
      if (after === undefined) return;
      let pasted: string[] = [];
      change('Paste', (draft) => {
        pasted = pasteNodes(draft, nodes, after, newId);
      });
      const [first] = pasted;
      if (first === undefined) {
        notifyRefused(t('nothingWasPasted'), t('itCannotGoHereSelectAnother'));
        return;
      }
      select(first);
      const now = store.getState().desk.template;
      const node = now && findNode(now, first)?.node;
      if (node) say(`Pasted: ${labelOf(node)}.`);
    };
    const onPaste = (event: ClipboardEvent) => {
      if (isOthers(event, true)) return;
      const data = event.clipboardData;
      const text = data?.getData('text/plain') ?? '';
      const clip = readClip(text);
      if (clip?.ok === false) {
        notifyRefused(t('nothingWasPasted'), clip.message);
        return;
      }
      const words = clip ? null : pastedText(data?.getData('text/html') ?? '', text);
      if (!clip && !words) return;
      event.preventDefault();
      if (clip) put(clip.nodes);
      else if (words) {
        put([composer(newId).text(words.text)]);
        if (words.dropped.length > 0)
          notifications.show({ title: t('pasted'), message: words.dropped.join(' ') });
      }
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('cut', onCopy);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('cut', onCopy);
      document.removeEventListener('paste', onPaste);
    };
  }, [change, select, dispatch]);
}
