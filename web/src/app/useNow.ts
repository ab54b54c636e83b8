import { outboxApi } from './occasionsApi';

/** The time as the server has it: its clock is so many minutes ahead. */
export const movedNow = (minutes: number): Date => new Date(Date.now() + minutes * 60_000);

/** How many minutes the server's clock was moved on; 0 until that is known. */
export function useMoved(): number {
  const { data } = outboxApi.useClockQuery();
  return data?.moved ?? 0;
}

/** The time as the server has it: its clock can be moved on. */
export const useNow = (): Date => movedNow(useMoved());
