import { useEffect, useState, type ReactNode } from 'react';
import { Button, FileButton, Pill, Progress, TextInput } from '@mantine/core';
import { Dropzone } from '@mantine/dropzone';
import { IconPlus, IconSearch } from '@tabler/icons-react';
import type { Picture } from '@carafe/contract';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { drawn } from './drawn';
import { picturesIn, usePictureUpload } from './usePictureUpload';
import classes from './pictures.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

interface Props {
  title: ReactNode;
  /** What a click on a picture does. */
  onOpen: (picture: Picture) => void;
  /** What happens with pictures that were just added. */
  onAdded?: (pictures: Picture[]) => void;
}

/** All pictures of the library: searched, added by a button, by dropping and by pasting. */
export function PictureLibrary({ title, onOpen, onAdded }: Props) {
  const { data, error } = api.usePicturesQuery();
  const [query, setQuery] = useState('');
  const [tag, setTag] = useState<string | null>(null);
  const { share, add } = usePictureUpload();
  const addAll = (files: readonly File[]) => {
    if (files.length > 0) void add(files).then((kept) => kept.length > 0 && onAdded?.(kept));
  };
  useEffect(() => {
    const pasted = (event: ClipboardEvent) => addAll(picturesIn(event.clipboardData));
    document.addEventListener('paste', pasted);
    return () => document.removeEventListener('paste', pasted);
  });
  const pictures = data?.pictures ?? [];
  const tags = [...new Set(pictures.flatMap((one) => one.tags))].sort();
  const words = query.trim().toLowerCase();
  const shown = pictures.filter(
    (one) =>
      (tag === null || one.tags.includes(tag)) &&
      `${one.name} ${one.alt} ${one.tags.join(' ')}`.toLowerCase().includes(words),
  );
  return (
    <>
      <header className={classes.head}>
        {title}
        <TextInput
          aria-label={t('searchPictures')}
          placeholder={t('search')}
          leftSection={<IconSearch size={14} />}
          value={query}
          onChange={({ currentTarget: { value } }) => setQuery(value)}
        />
        <span className="quiet">{t('dropPicturesHereOrPasteOne')}</span>
        <FileButton multiple accept="image/*" onChange={addAll}>
          {(button) => (
            <Button {...button} ml="auto" leftSection={<IconPlus size={15} />}>
              {t('addPictures')}
            </Button>
          )}
        </FileButton>
      </header>
      {tags.length > 0 && (
        <div className={classes.tags} role="group" aria-label={t('tags')}>
          {tags.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === tag}
              onClick={() => setTag(one === tag ? null : one)}
            >
              {one}
            </button>
          ))}
        </div>
      )}
      {share !== null && <Progress value={share * 100} aria-label={t('sending')} mb={12} />}
      {error && <p role="alert">{messageOf(error)}</p>}
      <Dropzone
        onDrop={addAll}
        onReject={(refused) => addAll(refused.map(({ file }) => file))}
        activateOnClick={false}
        activateOnKeyboard={false}
        classNames={{ root: classes.zone, inner: classes.zoneInner }}
        tabIndex={-1}
        enablePointerEvents
      >
        {data && shown.length === 0 ? (
          <p className={classes.none}>
            {pictures.length === 0 ? t('noPicturesYetDropOneHere') : t('noPictureMatchesInItsName')}
          </p>
        ) : (
          <ul className={classes.grid}>
            {shown.map((picture) => (
              <li key={picture.id}>
                <button type="button" onClick={() => onOpen(picture)}>
                  <span className={classes.frame}>
                    <img src={drawn(picture, 320)} alt={picture.alt} loading="lazy" />
                  </span>
                  <span className={classes.name}>{picture.name}</span>
                  <span className={classes.facts}>
                    {picture.width} × {picture.height}
                    {picture.alt === '' && <Pill size="xs">{t('noAltText')}</Pill>}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        )}
      </Dropzone>
    </>
  );
}
