import type { SourceKind, SourceStatus, SourceSummary, SourceTarget } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';

export const KIND_NAMES: Record<SourceKind, string> = {
  file: 'File',
  address: 'Address',
  events: 'Events',
  typed: 'Typed in',
};

export const STATUS_NAMES: Record<SourceStatus, string> = {
  fresh: 'Fresh',
  stale: 'Stale',
  failed: 'Failed',
  never: 'Nothing yet',
  waiting: 'Waits for you',
};

/** What a source feeds, as a designer names it. */
export function targetName(target: SourceTarget): string {
  return targetOf(target).label;
}

/** How formulas reach what a source feeds; null where they do not by its own name. */
export function formulaName({
  target,
  slot,
}: Pick<SourceSummary, 'target' | 'slot'>): string | null {
  switch (target) {
    case 'catalog':
      return `catalog.${slot}`;
    case 'feed':
      return `feeds.${slot}.posts`;
    case 'people':
      return 'person';
    case 'carts':
      return 'cart';
    case 'orders':
      return 'order';
    case 'events':
      return 'cart, order';
    case 'coupons':
      return 'coupon';
    case 'notes':
      return null;
  }
}

/** A name that formulas can say, made of words. */
export function slotFrom(words: string): string {
  const slot = words
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{Nd}]+/gu, '_')
    .replace(/^[_\d]+|_+$/g, '')
    .slice(0, 40);
  return slot || 'source';
}

/** Schedules that an address can be fetched on, in minutes. */
export const SCHEDULES = [
  { value: '', label: 'By hand only' },
  { value: '15', label: 'Every quarter of an hour' },
  { value: '60', label: 'Every hour' },
  { value: '360', label: 'Every six hours' },
  { value: '1440', label: 'Every day' },
];
