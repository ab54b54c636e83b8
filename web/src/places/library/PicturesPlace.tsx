import { useState } from 'react';
import { api } from '../../app/api';
import { PictureLibrary } from '../../parts/pictures/PictureLibrary';
import { LibraryTabs } from './LibraryTabs';
import { PictureSheet } from './PictureSheet';
import classes from './Library.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('library');

/** The pictures that mails show, kept apart from the templates. */
export function PicturesPlace() {
  const [open, setOpen] = useState<string | null>(null);
  const { data } = api.usePicturesQuery();
  const picture = data?.pictures.find(({ id }) => id === open);
  return (
    <main className={classes.place}>
      <LibraryTabs />
      <PictureLibrary
        title={<h1>{t('pictures')}</h1>}
        onOpen={({ id }) => setOpen(id)}
        onAdded={([first]) => first && setOpen(first.id)}
      />
      {picture && <PictureSheet key={open} picture={picture} onClose={() => setOpen(null)} />}
    </main>
  );
}
