import { useEffect, useMemo, type RefObject } from 'react';
import { createPortal } from 'react-dom';
import { Combobox, Paper, useCombobox } from '@mantine/core';
import { meantFields, singleValues } from '@carafe/core/shape';
import { counted } from '@carafe/core/words';
import { choicesOf, FieldOptions, MAX_SHOWN } from '../FieldPicker';
import { useFirstOption } from '../useFirstOption';
import type { AskedTag } from './askForTag';
import { firstFormula } from './firstFormula';
import { useScope } from './scope';
import classes from './words.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

interface Props {
  asked: AskedTag;
  /** Takes the keys that are pressed in the words meanwhile. */
  keys: RefObject<((event: KeyboardEvent) => boolean) | null>;
}

/** The list has so much room at least, or stands above what was typed. */
const ROOM = 300;

/** The fields that are meant by what is typed in the midst of words; the words keep the focus. */
export function TagList({ asked: { query, at, words, put }, keys }: Props) {
  const { shape, frames } = useScope();
  const all = useMemo(() => choicesOf(shape, frames, singleValues), [shape, frames]);
  const found = useMemo(() => meantFields(all, query).slice(0, MAX_SHOWN), [all, query]);
  const isSeen = found.length > 0;
  const combobox = useCombobox({ opened: true });
  useFirstOption(combobox, query, found);
  useEffect(() => {
    keys.current = (event) => {
      if (!isSeen) return false;
      switch (event.key) {
        case 'ArrowDown':
          combobox.selectNextOption();
          return true;
        case 'ArrowUp':
          combobox.selectPreviousOption();
          return true;
        case 'Enter':
        case 'Tab':
          if (event.shiftKey || combobox.getSelectedOptionIndex() < 0) return false;
          combobox.clickSelectedOption();
          return true;
        case 'Escape':
          // It closes the list alone, not what the words stand in.
          event.stopPropagation();
          return true;
        default:
          return false;
      }
    };
    return () => {
      keys.current = null;
    };
  });
  useEffect(() => {
    if (!isSeen) return;
    // Escape is the list's, not of the sheet that the words stand in.
    words.setAttribute('data-mantine-stop-propagation', 'true');
    return () => words.removeAttribute('data-mantine-stop-propagation');
  }, [words, isSeen]);
  if (!isSeen) return null;
  const above = at.top + at.height + ROOM > window.innerHeight && at.top > ROOM;
  return createPortal(
    <Paper
      className={classes.asked ?? ''}
      data-keep-open
      shadow="sm"
      withBorder
      style={{
        left: Math.max(8, Math.min(at.left, window.innerWidth - 408)),
        ...(above ? { bottom: window.innerHeight - at.top + 4 } : { top: at.top + at.height + 4 }),
      }}
      onMouseDown={(event) => event.preventDefault()}
    >
      <div role="status" className="only-read">
        {t('fieldsArrowKeysChooseEnterInserts', { fields: counted(found.length, 'field') })}
      </div>
      <Combobox
        store={combobox}
        onOptionSubmit={(path) => {
          const field = found.find((one) => one.path === path);
          if (field) put(firstFormula(field));
        }}
      >
        <FieldOptions found={found} query={query} />
      </Combobox>
    </Paper>,
    document.body,
  );
}
