import { ActionIcon, Button, Input } from '@mantine/core';
import { Dialog } from '../Dialog';
import { useDisclosure } from '@mantine/hooks';
import { IconPhoto, IconX } from '@tabler/icons-react';
import type { Picture } from '@carafe/contract';
import { libraryPicture, pictureAddress } from '@carafe/core/picture';
import { api } from '../../app/api';
import { LineField } from '../words/WordsEditor';
import { drawn } from './drawn';
import { PictureLibrary } from './PictureLibrary';
import classes from './pictures.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** A picture of the library was chosen: its address and what is said of it are put together. */
  onChosen?: (picture: Picture) => void;
}

/** A picture of the library, or an address with merge tags. */
export function PictureField({ label, value, onChange, onChosen }: Props) {
  const [isOpen, { open, close }] = useDisclosure(false);
  const named = libraryPicture(value);
  const { data } = api.usePicturesQuery(undefined, { skip: !named });
  const picture = named && data?.pictures.find(({ id }) => id === named.id);
  const choose = (one: Picture) => {
    if (onChosen) onChosen(one);
    else onChange(pictureAddress(one));
    close();
  };
  return (
    <Input.Wrapper label={label} size="xs" labelElement="div">
      <div className={classes.field}>
        {named ? (
          <div className={classes.chosen}>
            {picture && <img src={drawn(picture, 112)} alt="" />}
            <span className={classes.name}>
              {picture?.name ?? (data ? t('thisPictureIsNoLongerIn') : '…')}
            </span>
            <ActionIcon
              variant="subtle"
              size="sm"
              aria-label={t('labelUseAWebAddress', { label })}
              onClick={() => onChange('')}
            >
              <IconX size={14} />
            </ActionIcon>
          </div>
        ) : (
          <LineField label={label} value={value} onChange={onChange} />
        )}
        <Button
          variant="default"
          size="compact-xs"
          w="fit-content"
          leftSection={<IconPhoto size={13} />}
          onClick={open}
        >
          {named ? t('chooseAnother') : t('chooseFromTheLibrary')}
        </Button>
      </div>
      <Dialog opened={isOpen} onClose={close} title={t('chooseAPicture')} size={820}>
        <PictureLibrary
          title={null}
          onOpen={choose}
          onAdded={([first]) => first && choose(first)}
        />
      </Dialog>
    </Input.Wrapper>
  );
}
