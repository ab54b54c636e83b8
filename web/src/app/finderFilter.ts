import type { SpotlightActionData } from '@mantine/spotlight';

/** How well a name answers what was typed: 0 for the very name, more for less, null where it does not. */
function distance(
  asked: string,
  { label, description, also }: Record<'label' | 'description' | 'also', string>,
): number | null {
  if (label === asked) return 0;
  if (label.startsWith(asked)) return 1;
  const at = label.indexOf(asked);
  // At the beginning of a word, or within one.
  if (at >= 0) return /[\p{L}\p{Nd}]/u.test(label.charAt(at - 1)) ? 3 : 2;
  // A word that people have for it is nearer than one that merely stands in what is said of it.
  if (` ${also}`.includes(` ${asked}`)) return 4;
  if (description.includes(asked)) return 5;
  const all = ` ${label} ${description} ${also}`.replace(/[^\p{L}\p{Nd}]+/gu, ' ');
  return asked.split(/\s+/).every((word) => all.includes(` ${word}`)) ? 6 : null;
}

/** What answers the words that were typed, the nearest first: the very name before names that hold it. */
export function finderFilter<
  T extends Pick<SpotlightActionData, 'label' | 'description' | 'keywords'>,
>(query: string, actions: readonly T[]): T[] {
  const asked = query.trim().toLowerCase();
  const near = actions.flatMap((action) => {
    const { label = '', description = '', keywords = '' } = action;
    const far = distance(asked, {
      label: label.toLowerCase(),
      description: description.toLowerCase(),
      also: String(keywords).toLowerCase(),
    });
    return far === null ? [] : [{ action, far }];
  });
  return near.sort((a, b) => a.far - b.far).map(({ action }) => action);
}
