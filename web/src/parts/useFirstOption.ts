import { useEffect } from 'react';
import type { ComboboxStore } from '@mantine/core';

/**
 * Enter takes the first option that is seen: it is chosen when the list of these words stands there, not
 * while that of the words before still does.
 */
export function useFirstOption({ selectFirstOption }: ComboboxStore, words: string): void {
  useEffect(() => {
    if (words !== '') selectFirstOption();
  }, [words, selectFirstOption]);
}
