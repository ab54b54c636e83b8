import { useDeferredValue, useMemo } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { readTemplate } from '@carafe/core/template';
import { publishingApi } from '../../app/publishingApi';
import { useAppSelector } from '../../app/store';

/** How the draft stands to what is published, in a word; nothing before that is known. */
export function usePublishState(): string | null {
  const id = useAppSelector((s) => s.desk.id);
  const template = useDeferredValue(useAppSelector((s) => s.desk.template));
  const { data } = publishingApi.usePublishedQuery(id ?? skipToken);
  const number = data?.versions[0]?.number;
  const { data: live } = publishingApi.usePublishedVersionQuery(
    id && number !== undefined ? { id, number } : skipToken,
  );
  const published = useMemo(() => {
    const read = live ? readTemplate(live.template) : null;
    return read?.ok ? JSON.stringify(read.template) : null;
  }, [live]);
  if (!data || !template) return null;
  if (number === undefined) return 'Not published';
  if (published === null) return null;
  return published === JSON.stringify(template) ? 'Published' : 'Draft differs';
}
