/** What parts of a path are called where the path itself is no word that people use. */
const CALLED: Record<string, string> = {
  recover_url: 'link',
  view_url: 'link',
  pay_url: 'payment link',
  url: 'link',
  ship_to: 'delivery',
  was_price: 'previous price',
  last_seen_at: 'last visit',
  last_mail_at: 'last email',
  updated_at: 'last changed',
  status_at: 'status since',
  consent_at: 'consent since',
  expires_at: 'valid until',
  picks: 'recommended',
};

/** The name of a field as people say it: `first_name` is “first name”, and `placed_at`, a date, “placed”. */
export const fieldWords = (name: string): string =>
  (Object.hasOwn(CALLED, name) ? (CALLED[name] ?? name) : name.replace(/_at$/, '')).replaceAll(
    '_',
    ' ',
  );
