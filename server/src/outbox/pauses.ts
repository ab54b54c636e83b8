const MINUTE = 60_000;
/** The mail server is asked again after so long at most. */
const LONGEST_PAUSE = 15 * MINUTE;

/** When an email is tried again after so many tries, in milliseconds: 1, 4, 16 minutes, 1 hour, 4, 8, 8 hours. */
export const retryAfter = (tries: number): number => Math.min(480, 4 ** (tries - 1)) * MINUTE;

/** Nothing leaves meanwhile: why, until when, and how long that is, in milliseconds. */
export interface Pause {
  why: string;
  until: number;
  pause: number;
}

/** The next pause where the mail server lets nobody in: half a minute, then twice the last, a quarter of an hour at most. */
export function pauseAfter(last: Pause | null, why: string, at: number): Pause {
  const pause = Math.min(LONGEST_PAUSE, (last?.pause ?? MINUTE / 4) * 2);
  return { why, until: at + pause, pause };
}

/** Whether a pause goes on. A clock that was set back does not make it longer than any pause is. */
export const isPaused = (pause: Pause | null, at: number): boolean =>
  pause !== null && pause.until > at && pause.until - at <= LONGEST_PAUSE;
