import { useState, type KeyboardEvent, type MouseEvent } from 'react';
import { Button, FileButton, Group, Slider, TagsInput, Textarea, TextInput } from '@mantine/core';
import { Link } from 'react-router';
import type { ChangePicture, Picture } from '@carafe/contract';
import { api } from '../../app/api';
import { notifyFailure } from '../../parts/notify';
import { drawn, weight } from '../../parts/pictures/drawn';
import { usePictureUpload } from '../../parts/pictures/usePictureUpload';
import { SideSheet } from '../../parts/SideSheet';
import shared from '../../parts/pictures/pictures.module.css';
import classes from './Library.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('library');

/** Shapes that the sheet shows the picture cut to. */
const SHAPES = [
  [64, 64],
  [96, 64],
  [114, 64],
  [48, 64],
] as const;
const within = (share: number) => Math.min(1, Math.max(0, Math.round(share * 1000) / 1000));

/** One picture: what it is called, what is said of it, what of it matters, and where it shows. */
export function PictureSheet({ picture, onClose }: { picture: Picture; onClose: () => void }) {
  const { id, focus, version } = picture;
  const [changePicture] = api.useChangePictureMutation();
  const [deletePicture] = api.useDeletePictureMutation();
  const { replace, share } = usePictureUpload();
  const [name, setName] = useState(picture.name);
  const [alt, setAlt] = useState(picture.alt);
  const change = async (asked: ChangePicture) => {
    const { error } = await changePicture({ id, asked });
    if (error) notifyFailure(error);
  };
  const look = (to: Partial<Picture['focus']>) => void change({ focus: { ...focus, ...to } });
  const pointed = ({ nativeEvent, currentTarget, detail }: MouseEvent<HTMLButtonElement>) => {
    // A click by the keyboard has no place.
    if (detail === 0) return;
    const { offsetX, offsetY } = nativeEvent;
    const { clientWidth, clientHeight } = currentTarget;
    look({ x: within(offsetX / clientWidth), y: within(offsetY / clientHeight) });
  };
  const moved = (event: KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ...{ ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0] },
      ...{ ArrowUp: [0, -0.05], ArrowDown: [0, 0.05] },
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    look({ x: within(focus.x + step[0]), y: within(focus.y + step[1]) });
  };
  const remove = async () => {
    const { error } = await deletePicture(id);
    if (error) notifyFailure(error);
    else onClose();
  };
  return (
    <SideSheet title={picture.name} width={460} onClose={onClose}>
      <div className={classes.form}>
        <div>
          <button
            type="button"
            className={shared.focus}
            aria-label={t('theMostImportantPointOfThe')}
            onClick={pointed}
            onKeyDown={moved}
          >
            <img src={drawn(picture, 900)} alt="" />
            <span
              className={shared.point}
              style={{ left: `${focus.x * 100}%`, top: `${focus.y * 100}%` }}
            />
          </button>
          <div className="label">{t('zoom')}</div>
          <Slider
            thumbLabel={t('zoom')}
            mb={10}
            min={1}
            max={4}
            step={0.1}
            label={(value) => `${value} ×`}
            defaultValue={focus.zoom}
            onChangeEnd={(zoom) => look({ zoom })}
          />
          <div className="label">{t('croppedToTheShapesThatBlocks')}</div>
          <div className={shared.previews}>
            {SHAPES.map(([width, height]) => (
              <img
                key={width}
                alt=""
                src={`/pictures/library/${id}/${width * 2}x${height * 2}?v=${version}`}
              />
            ))}
          </div>
        </div>
        <TextInput
          label={t('name')}
          value={name}
          onChange={({ currentTarget: { value } }) => setName(value)}
          onBlur={() => name !== picture.name && void change({ name })}
        />
        <Textarea
          label={t('altText')}
          description={t('readAloudAndShownWhenPictures')}
          autosize
          minRows={2}
          value={alt}
          onChange={({ currentTarget: { value } }) => setAlt(value)}
          onBlur={() => alt !== picture.alt && void change({ alt })}
        />
        <TagsInput
          label={t('tags')}
          value={picture.tags}
          onChange={(tags) => void change({ tags })}
        />
        <p className={classes.facts}>
          {picture.width} × {picture.height} {t('pixels')} {weight(picture.bytes)}, {picture.type}
        </p>
        <div>
          <div className="label">{t('shownIn')}</div>
          {picture.used_by.length === 0 ? (
            <p className={classes.facts}>{t('noTemplateShowsIt')}</p>
          ) : (
            <ul className={classes.used}>
              {picture.used_by.map((one) => (
                <li key={one.id}>
                  <Link to={`/templates/${one.id}`}>{one.name}</Link>
                </li>
              ))}
            </ul>
          )}
        </div>
        <Group>
          <FileButton accept="image/*" onChange={(file) => file && void replace(id, file)}>
            {(button) => (
              <Button {...button} variant="default" loading={share !== null}>
                {picture.used_by.length > 0 ? t('replaceEverywhere') : t('replace')}
              </Button>
            )}
          </FileButton>
          <Button
            variant="default"
            disabled={picture.used_by.length > 0}
            onClick={() => void remove()}
          >
            {t('delete')}
          </Button>
        </Group>
      </div>
    </SideSheet>
  );
}
