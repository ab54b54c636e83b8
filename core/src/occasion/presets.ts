import type { Occasion, SendStep, Step } from './occasion';

/** What the shipped occasions send: ids of templates by what they say; blank where a shop has none. */
export type PresetTemplates = Readonly<Record<PresetMail, string>>;
export type PresetMail =
  | 'cart_first'
  | 'cart_second'
  | 'order_confirmed'
  | 'owner_copy'
  | 'on_its_way'
  | 'pay'
  | 'after_purchase'
  | 'welcome_1'
  | 'welcome_2'
  | 'welcome_3'
  | 'digest'
  | 'new_in';

const EVERYBODY = { guests: true };
const wait = (id: string, n: number, unit: 'hours' | 'days'): Step => ({
  ...{ id, kind: 'wait', for: { n, unit } },
});
const guard = (id: string, when: string): Step => ({ id, kind: 'guard', when, otherwise: 'stop' });

/** The eight occasions that a shop can start from; their mails are held until somebody says otherwise. */
export function presets(templates: PresetTemplates): Occasion[] {
  const send = (
    id: PresetMail,
    mail: SendStep['mail'],
    to: SendStep['to'] = 'person',
  ): SendStep => ({ id, kind: 'send', template: templates[id], mail, mode: 'held', to });
  return [
    {
      ...{ name: 'Cart left', start: { kind: 'cart_left' }, priority: 6 },
      whom: { ...EVERYBODY, where: 'cart.count >= 2', rest_days: 14 },
      steps: [
        wait('wait_first', 3, 'hours'),
        guard('not_ordered', 'not occasion.ordered_since'),
        send('cart_first', 'marketing'),
        wait('wait_second', 1, 'days'),
        guard('still_there', 'cart is filled and not occasion.ordered_since'),
        send('cart_second', 'marketing'),
      ],
    },
    {
      ...{ name: 'Order confirmed', start: { kind: 'order_placed', which: 'any' }, priority: 10 },
      whom: EVERYBODY,
      steps: [send('order_confirmed', 'service'), send('owner_copy', 'service', 'owner')],
    },
    {
      ...{ name: 'On its way', priority: 9, whom: EVERYBODY },
      start: { kind: 'order_status', status: 'Sent', held: { n: 0, unit: 'hours' } },
      steps: [send('on_its_way', 'service')],
    },
    {
      ...{ name: 'Pay for your order', priority: 9, whom: EVERYBODY },
      start: { kind: 'order_status', status: 'Awaiting payment', held: { n: 1, unit: 'days' } },
      steps: [send('pay', 'service')],
    },
    {
      ...{ name: 'After the purchase', priority: 4 },
      start: { kind: 'order_placed', which: 'any' },
      whom: { ...EVERYBODY, rest_days: 30 },
      steps: [
        wait('wait', 14, 'days'),
        { id: 'morning', kind: 'wait', until: { time: '09:00', days: [2, 3, 4] } },
        guard('not_ordered', 'not occasion.ordered_since'),
        send('after_purchase', 'marketing'),
      ],
    },
    {
      ...{ name: 'First purchase in three emails', priority: 5, whom: EVERYBODY },
      start: { kind: 'order_placed', which: 'first' },
      steps: [
        wait('wait_1', 1, 'days'),
        send('welcome_1', 'marketing'),
        wait('wait_2', 5, 'days'),
        send('welcome_2', 'marketing'),
        wait('wait_3', 10, 'days'),
        guard('not_ordered', 'not occasion.ordered_since'),
        send('welcome_3', 'marketing'),
      ],
    },
    {
      ...{ name: 'Journal digest', priority: 2, whom: { guests: false } },
      start: { kind: 'repeating', every: 'month', day: 1, time: '08:00', clock: 'person' },
      steps: [
        guard(
          'something_new',
          'any(feeds.furrow.posts, published_at > (occasion.last_mail_at otherwise add_days(occasion.entered_at otherwise now, -31)))',
        ),
        send('digest', 'marketing'),
      ],
    },
    {
      ...{ name: 'Weekly new in', priority: 1, whom: { guests: false } },
      start: { kind: 'repeating', every: 'week', days: [4], time: '09:00', clock: 'shop' },
      steps: [send('new_in', 'marketing')],
    },
  ];
}
