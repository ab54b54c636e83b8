import type { Picture } from '@carafe/contract';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

/** Where this server draws a picture so many pixels wide, as it is now. */
export function drawn({ id, width, height, version }: Picture, wide: number): string {
  const drawnWide = Math.max(1, Math.min(wide, width));
  const high = Math.max(1, Math.round((drawnWide * height) / width));
  return `/pictures/library/${id}/${drawnWide}x${high}?v=${version}`;
}

/** The weight of a file in words. */
export function weight(bytes: number): string {
  return bytes >= 1e6
    ? t('bytesMB', { bytes: (bytes / 1e6).toLocaleString('en-GB', { maximumFractionDigits: 1 }) })
    : t('maxKB', { max: Math.max(1, Math.round(bytes / 1000)).toLocaleString('en-GB') });
}
