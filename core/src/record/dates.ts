const NAMES = new Set(
  (
    'joined started_at updated_at placed_at last_order_at first_order_at last_seen_at ' +
    'checkout_started_at published_at added_at expires_at at today now consent_at ' +
    'status_at entered_at last_mail_at'
  ).split(' '),
);

/** Whether the record names this field as a date. Other dates stand in JSON as {"date": ISO 8601}. */
export function isDateField(name: string): boolean {
  return NAMES.has(name);
}
