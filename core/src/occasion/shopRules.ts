import { z } from 'zod';

const count = (most: number, what: string) =>
  z
    .number()
    .int()
    .min(0)
    .max(most, `${what} is at most ${most.toLocaleString('en')}.`);

/** What applies to all occasions of a shop. */
export const ShopRules = z.strictObject({
  /** A cart is left when nobody touched it for so long. */
  quiet_minutes: count(10_080, 'The time without activity').min(
    1,
    'A cart can count as abandoned after one minute at the earliest.',
  ),
  /** A cart that was left for longer is given up. */
  give_up_days: count(365, 'The time after which an abandoned cart is forgotten').min(1),
  /** So many marketing mails a person gets in a day and in a week at most; 0 for any number. */
  most_a_day: count(50, 'The number of emails per day'),
  most_a_week: count(200, 'The number of emails per week'),
  /** Where several occasions answer one cause: all do, or the first by priority. */
  one_cause: z.enum(['all', 'first']),
  /** So many people may come into one occasion within an hour before it asks. */
  most_an_hour: count(10_000_000, 'The number of people per hour').min(1),
});
export type ShopRules = z.infer<typeof ShopRules>;

/** What holds until a shop says otherwise. */
export const FIRST_RULES: ShopRules = {
  quiet_minutes: 60,
  give_up_days: 30,
  most_a_day: 1,
  most_a_week: 3,
  one_cause: 'all',
  most_an_hour: 5_000,
};
