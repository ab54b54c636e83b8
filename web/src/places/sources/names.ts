import type { SourceKind, SourceStatus, SourceSummary, SourceTarget } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

export const KIND_NAMES: Record<SourceKind, string> = {
  file: 'File',
  address: 'Address',
  events: 'Events',
  typed: 'Typed in',
};

export const STATUS_NAMES: Record<SourceStatus, string> = {
  fresh: 'Fresh',
  stale: 'Stale',
  failed: t('failed'),
  never: 'Nothing yet',
  waiting: t('needsReview'),
};

/** What a source feeds, as a designer names it. */
export function targetName(target: SourceTarget): string {
  return targetOf(target).label;
}

/** How formulas reach what a source feeds; null where they do not. */
export function formulaOf({
  target,
  formula_name,
}: Pick<SourceSummary, 'target' | 'formula_name'>): string | null {
  return targetOf(target).formula(formula_name);
}

/** A name that formulas can say, made of words. */
export function formulaNameFrom(words: string): string {
  const name = words
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{Nd}]+/gu, '_')
    .replace(/^[_\d]+|_+$/g, '')
    .slice(0, 40);
  return name || 'source';
}

/** Schedules that an address can be fetched on, in minutes. */
export const SCHEDULES = [
  { value: '', label: t('byHandOnly') },
  { value: '15', label: t('every15Minutes') },
  { value: '60', label: t('everyHour') },
  { value: '360', label: t('everySixHours') },
  { value: '1440', label: t('everyDay') },
];
