import { Button, Loader } from '@mantine/core';
import type { ImportSummary } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import classes from './File.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** Rows are being checked or imported on the server; everything else goes on. */
export function Checking({ one, onStop }: { one: ImportSummary; onStop: () => void }) {
  const isApplying = one.state === 'applying';
  const done = isApplying ? 'imported' : 'checked';
  return (
    <div className={classes.checking} role="status">
      <Loader size="sm" />
      <span className="figures">
        {one.progress
          ? `${counted(one.progress, 'row')} ${done}`
          : isApplying
            ? t('importingTheRows')
            : t('checkingTheRows')}{' '}
        …
      </span>
      {!isApplying && (
        <Button variant="default" onClick={onStop}>
          {t('stop')}
        </Button>
      )}
      <p className="quiet">
        {isApplying ? t('youCanLeaveThisPageMeanwhile') : t('youCanLeaveThisPageMeanwhile2')}
      </p>
    </div>
  );
}
