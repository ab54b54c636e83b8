import { useEffect, useState } from 'react';
import { store, type RootState } from '../../app/store';

/** The next mail is waited for so long, in milliseconds: after that the one that is shown is measured. */
const WAIT_MS = 120;
/** Nobody goes without being measured for longer than that, however fast mails follow one another. */
const MOST_MS = 250;

/**
 * When a mail is measured: in the frame after it was seen, or once the next has been seen that is on its way. What is
 * far out of sight is shown with it, so that mails that follow one another fast do not wait for what nobody looks at.
 */
export class Measuring {
  private frame: number | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private since: number | null = null;

  constructor(private readonly measure: () => void) {}

  /** Whether a mail was painted that is not measured yet. */
  get isDue(): boolean {
    return this.since !== null;
  }

  /** A mail was painted, or what stands in it has moved. */
  soon(): void {
    if (this.frame !== null && this.isLate()) return;
    this.cancel();
    this.since ??= performance.now();
    this.frame = requestAnimationFrame(() => {
      this.frame = requestAnimationFrame(() => this.now());
    });
  }

  /** Another mail is on its way: what is due comes after it. */
  holdBack(): void {
    if (this.since === null || this.isLate()) return;
    this.cancel();
    this.timer = setTimeout(() => this.now(), WAIT_MS);
  }

  now(): void {
    this.stop();
    this.measure();
  }

  /** Nothing is measured any more, unless it is asked for again. */
  stop(): void {
    this.cancel();
    this.since = null;
  }

  private isLate(): boolean {
    return this.since !== null && performance.now() - this.since > MOST_MS;
  }

  private cancel(): void {
    if (this.frame !== null) cancelAnimationFrame(this.frame);
    if (this.timer !== null) clearTimeout(this.timer);
    this.frame = null;
    this.timer = null;
  }
}

/** Tells when somebody else is to be shown. */
function onNextPerson(tell: () => void): () => void {
  const personOf = ({ desk: { recipients, index } }: RootState) => recipients[index]?.id;
  let before = personOf(store.getState());
  return store.subscribe(() => {
    const person = personOf(store.getState());
    if (person !== before) tell();
    before = person;
  });
}

/** Measures the mail that is shown; `measure` is the first that was given. */
export function useMeasuring(measure: () => void): Measuring {
  const [measuring] = useState(() => new Measuring(measure));
  useEffect(() => onNextPerson(() => measuring.holdBack()), [measuring]);
  useEffect(() => () => measuring.stop(), [measuring]);
  return measuring;
}
