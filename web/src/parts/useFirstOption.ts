import { useEffect, useLayoutEffect } from 'react';
import type { ComboboxStore } from '@mantine/core';

/**
 * Enter takes the first option that is seen: it is chosen when the list of these words stands there, not
 * while that of the words before still does. `from` is what the list is made of: it may come after the words.
 */
export function useFirstOption(
  { selectFirstOption }: ComboboxStore,
  words: string,
  from?: unknown,
): void {
  const choose = () => {
    if (words !== '') selectFirstOption();
  };
  // Before the next key is heard, and once more when the list is one that has just been opened.
  useLayoutEffect(choose, [words, from, selectFirstOption]);
  useEffect(choose, [words, from, selectFirstOption]);
}
