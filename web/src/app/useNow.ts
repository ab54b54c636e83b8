import { outboxApi } from './occasionsApi';

/** The time as the server has it: its clock can be moved on. */
export function useNow(): Date {
  const { data } = outboxApi.useClockQuery();
  return new Date(Date.now() + (data?.moved ?? 0) * 60_000);
}
