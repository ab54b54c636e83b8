import type { PresetMail, PresetTemplates } from '@carafe/core/occasion';
import type { Template } from '@carafe/core/template';

/** What templates of the demo and of a shop are for, by the words of their names. */
const PRESET_NAMES: Record<PresetMail, RegExp> = {
  cart_first: /you left|left in|cart|basket/i,
  cart_second: /still/i,
  order_confirmed: /confirm|thank you for your order/i,
  owner_copy: /owner/i,
  on_its_way: /on its way|shipped/i,
  pay: /^pay/i,
  after_purchase: /after the purchase|review/i,
  welcome_1: /welcome/i,
  welcome_2: /welcome.*how/i,
  welcome_3: /welcome.*next/i,
  digest: /digest/i,
  new_in: /new in/i,
};
/** The templates of a shop that fit the shipped occasions; blank where none does. */
export function presetTemplates(
  own: readonly { id: string; template: unknown }[],
): PresetTemplates {
  return Object.fromEntries(
    Object.entries(PRESET_NAMES).map(([mail, name]) => [
      mail,
      own.find(({ template }) => name.test((template as Template).name))?.id ?? '',
    ]),
  ) as Record<PresetMail, string>;
}
