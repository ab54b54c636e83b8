import { useDeferredValue, useMemo } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { readTemplate } from '@carafe/core/template';
import { publishingApi } from '../../app/publishingApi';
import { useAppSelector } from '../../app/store';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** A template as it is stored: in whatever order edits put its fields, it is the same text. */
export function storedText(template: unknown): string | null {
  const read = readTemplate(template);
  return read.ok ? JSON.stringify(read.template) : null;
}

/** How the draft stands to what is published, in a word; nothing before that is known. */
export function usePublishState(): string | null {
  const id = useAppSelector((s) => s.desk.id);
  const template = useDeferredValue(useAppSelector((s) => s.desk.template));
  const { data } = publishingApi.usePublishedQuery(id ?? skipToken);
  const number = data?.versions[0]?.number;
  const { currentData: live } = publishingApi.usePublishedVersionQuery(
    id && number !== undefined ? { id, number } : skipToken,
  );
  const published = useMemo(() => (live ? storedText(live.template) : null), [live]);
  const draft = useMemo(() => (template ? storedText(template) : null), [template]);
  if (!data || draft === null) return null;
  if (number === undefined) return t('notPublished');
  if (published === null) return null;
  return published === draft ? t('published') : t('draftDiffers');
}
