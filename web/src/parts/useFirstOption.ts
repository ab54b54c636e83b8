import { useEffect } from 'react';
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
  useEffect(() => {
    if (words !== '') selectFirstOption();
  }, [words, from, selectFirstOption]);
}
