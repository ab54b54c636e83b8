const moments = new Intl.DateTimeFormat('en-GB', {
  ...{
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  },
  timeZoneName: 'short',
});

/**
 * An instant as this browser’s clock shows it, with the name of its time zone: an email sent at 09:00 by somebody’s own clock
 * may have been sent at 08:00 here. “Tue, 24 Nov 2026, 08:00 GMT”.
 */
export const momentOf = (at: string | number | Date): string => moments.format(new Date(at));
