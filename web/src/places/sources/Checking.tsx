import { Button, Loader } from '@mantine/core';
import type { ImportSummary } from '@carafe/contract';
import { counted } from '@carafe/core/words';
import classes from './File.module.css';

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
            ? 'Importing the rows'
            : 'Checking the rows'}{' '}
        …
      </span>
      {!isApplying && (
        <Button variant="default" onClick={onStop}>
          Stop
        </Button>
      )}
      <p className="quiet">
        {isApplying
          ? 'You can leave this page meanwhile. All rows appear at once.'
          : 'You can leave this page meanwhile. Nothing changes until you import it.'}
      </p>
    </div>
  );
}
