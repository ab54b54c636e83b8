import { Button, Loader } from '@mantine/core';
import type { ImportSummary } from '@carafe/contract';
import { counted } from '../../parts/counted';
import classes from './File.module.css';

/** Rows are being checked on the server; everything else goes on. */
export function Checking({ one, onStop }: { one: ImportSummary; onStop: () => void }) {
  return (
    <div className={classes.checking} role="status">
      <Loader size="sm" />
      <span className="figures">
        {one.progress ? `${counted(one.progress, 'row')} checked` : 'Checking the rows'} …
      </span>
      <Button variant="default" onClick={onStop}>
        Stop
      </Button>
      <p className="quiet">You can go elsewhere meanwhile. Nothing is changed until you say so.</p>
    </div>
  );
}
