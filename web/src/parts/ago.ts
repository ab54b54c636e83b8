import { wordsOf } from '../words';

const t = wordsOf('parts');
/** How long ago or ahead, in words. */
export function ago(iso: string, now: Date): string {
  const minutes = Math.round((Date.parse(iso) - now.getTime()) / 60_000);
  if (minutes === 0) return t('justNow');
  const format = new Intl.RelativeTimeFormat('en-GB', { numeric: 'auto' });
  if (Math.abs(minutes) < 60) return format.format(minutes, 'minute');
  if (Math.abs(minutes) < 60 * 24) return format.format(Math.round(minutes / 60), 'hour');
  return format.format(Math.round(minutes / 1440), 'day');
}

/** When something is to come, in words; what should have come by now is due. */
export function ahead(iso: string, now: Date): string {
  return Date.parse(iso) <= now.getTime() ? t('dueNow') : ago(iso, now);
}
