import { api } from './api';

const NEEDY = new Set(['stale', 'failed', 'waiting']);

/** How many sources ask for attention: grown stale, failed, or holding a file back. */
export function useAttention(): number {
  const { data } = api.useSourcesQuery();
  return data?.sources.filter(({ status }) => NEEDY.has(status)).length ?? 0;
}
