import { useEffect, useState } from 'react';
import { api } from '../../app/api';
import { PictureLibrary } from '../../parts/pictures/PictureLibrary';
import { PictureSheet } from './PictureSheet';
import classes from './Pictures.module.css';

/** The pictures that mails show, kept apart from the templates. */
export function PicturesPlace() {
  const [open, setOpen] = useState<string | null>(null);
  const { data } = api.usePicturesQuery();
  const picture = data?.pictures.find(({ id }) => id === open);
  useEffect(() => {
    document.title = 'Pictures · Carafe';
  }, []);
  return (
    <main className={classes.place}>
      <PictureLibrary
        title={<h1>Pictures</h1>}
        onOpen={({ id }) => setOpen(id)}
        onAdded={([first]) => first && setOpen(first.id)}
      />
      {picture && <PictureSheet key={open} picture={picture} onClose={() => setOpen(null)} />}
    </main>
  );
}
