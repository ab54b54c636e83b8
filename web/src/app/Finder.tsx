import { useEffect, useState } from 'react';
import { VisuallyHidden } from '@mantine/core';
import { Spotlight, type SpotlightActionData } from '@mantine/spotlight';
import { holdKeys } from '../parts/holdKeys';
import { finderFilter } from './finderFilter';
import { MoveClock } from './MoveClock';
import { useFinder } from './useFinder';
import { wordsOf } from '../words';

const t = wordsOf('app');

const NAME = t('findAnything');

/** Finds anything by its name, from anywhere. */
export function Finder() {
  const [moving, setMoving] = useState(false);
  const { actions, refresh } = useFinder(() => setMoving(true));
  // What is typed while it opens is not lost, nor taken for keys of the place.
  useEffect(() => {
    const opens = (event: KeyboardEvent) => {
      const isFinder = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k';
      if (isFinder && !event.shiftKey && !document.querySelector(`input[aria-label="${NAME}"]`))
        holdKeys();
    };
    window.addEventListener('keydown', opens, true);
    return () => window.removeEventListener('keydown', opens, true);
  }, []);
  return (
    <>
      {moving && <MoveClock onClose={() => setMoving(false)} />}
      <Spotlight
        actions={actions}
        title={<VisuallyHidden>{NAME}</VisuallyHidden>}
        styles={{
          header: { position: 'absolute', minHeight: 0, padding: 0 },
          // Read on the ground of the one that is chosen, too.
          actionDescription: { color: 'inherit', opacity: 1 },
        }}
        scrollAreaProps={{ viewportProps: { tabIndex: 0 } }}
        filter={(query, all) => finderFilter(query, all as SpotlightActionData[])}
        shortcut="mod + K"
        tagsToIgnore={[]}
        triggerOnContentEditable
        limit={40}
        scrollable
        maxHeight={420}
        nothingFound={t('nothingMatches')}
        onSpotlightOpen={refresh}
        searchProps={{
          placeholder: t('templateBlockRecipientSettingAction'),
          'aria-label': NAME,
        }}
      />
    </>
  );
}
