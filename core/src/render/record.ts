import {
  fieldOf,
  isRecord,
  localeOf,
  newContext,
  toDate,
  type Context,
  type Fields,
} from '../formula';
import { MAX_MAIL_STEPS } from './cut';

export interface RenderOptions {
  /** BCP 47 tag that goes before the recipient's own. */
  locale?: string;
  /**
   * How long lists are where only a part of them is in the record, for the trail: by the list, and by
   * `<list> where <filter>` for what a loop's filter keeps.
   */
  lengths?: Readonly<Record<string, number>>;
  /** The moment that `now` and `today` stand for; needed where the record has none. */
  asOf: Date;
}

function part(record: Fields, name: string): Fields {
  const value = fieldOf(record, name);
  return isRecord(value) ? value : {};
}

/** The context that a mail is filled in: the record with today and now, in the recipient's locale. */
export function contextFor(record: Fields, options: RenderOptions): Context {
  const person = part(record, 'person');
  const shop = part(record, 'shop');
  const locale = localeOf(
    [options.locale, fieldOf(person, 'locale'), fieldOf(shop, 'locale')],
    [fieldOf(person, 'timezone'), fieldOf(shop, 'timezone')],
  );
  const now = toDate(fieldOf(record, 'now')) ?? options.asOf;
  const context = newContext(record, locale);
  context.clock = { now, today: locale.day(now) };
  context.total = MAX_MAIL_STEPS;
  return context;
}
