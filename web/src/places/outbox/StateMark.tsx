import type { OutboxState } from '@carafe/contract';
import { STATE_WORDS } from './states';
import classes from './Outbox.module.css';

/** A state by its word and a shape. */
export function StateMark({ state }: { state: OutboxState }) {
  return (
    <span className={classes.mark} data-state={state}>
      {STATE_WORDS[state]}
    </span>
  );
}
