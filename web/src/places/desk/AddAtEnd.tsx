import { Kbd } from '@mantine/core';
import { IconPlus } from '@tabler/icons-react';
import { placeAtEnd } from '@carafe/core/template';
import { useAppSelector } from '../../app/store';
import { AddBlock } from './AddBlock';
import classes from './Canvas.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** The line under the email that adds a block at its end. */
export function AddAtEnd({ width }: { width: number | undefined }) {
  const after = useAppSelector(({ desk }) => desk.template && placeAtEnd(desk.template));
  if (!after) return null;
  return (
    <AddBlock after={after}>
      <button type="button" className={classes.atEnd} style={{ maxWidth: width }}>
        <IconPlus size={15} aria-hidden /> {t('addABlock')}
        <span className={classes.hint}>
          {t('orPress')} <Kbd size="xs">/</Kbd> {t('toAddOneAfterTheSelection')}
        </span>
      </button>
    </AddBlock>
  );
}
