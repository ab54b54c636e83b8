import { useState } from 'react';
import { Spotlight, type SpotlightActionData } from '@mantine/spotlight';
import { finderFilter } from './finderFilter';
import { MoveClock } from './MoveClock';
import { useFinder } from './useFinder';

/** Finds anything by its name, from anywhere. */
export function Finder() {
  const [moving, setMoving] = useState(false);
  const { actions, refresh } = useFinder(() => setMoving(true));
  return (
    <>
      {moving && <MoveClock onClose={() => setMoving(false)} />}
      <Spotlight
        actions={actions}
        filter={(query, all) => finderFilter(query, all as SpotlightActionData[])}
        shortcut="mod + K"
        limit={40}
        scrollable
        maxHeight={420}
        nothingFound="Nothing has that in its name."
        onSpotlightOpen={refresh}
        searchProps={{
          placeholder: 'A template, a part of it, a recipient, an action',
          'aria-label': 'Find anything',
        }}
      />
    </>
  );
}
