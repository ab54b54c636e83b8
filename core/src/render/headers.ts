import { fieldOf, isRecord, type Fields } from '../formula';
import { safeAddress } from './escape';

/**
 * A mail that can be unsubscribed from says so to mail programs, which then do it with one click
 * (RFC 2369 and RFC 8058).
 */
export function leaveHeaders(record: Fields): Record<string, string> {
  const links = fieldOf(record, 'links');
  const link = isRecord(links) ? fieldOf(links, 'unsubscribe') : undefined;
  const address = typeof link === 'string' ? safeAddress(link, 'link') : null;
  if (!address?.startsWith('https://') || /[<>]/.test(address)) return {};
  return {
    'List-Unsubscribe': `<${address}>`,
    'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
  };
}
