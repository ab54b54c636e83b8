import { RATIO_FIELD } from './image';
import type { LineField, MemberKind, NodeField } from './fields';

/** What of a card is changed; the catalog's stays where it is left out. */
export const changing = (path: string, label: string, holds: LineField['holds']): NodeField => ({
  ...{ control: 'line', path, label, holds },
  placeholder: 'As in the catalog',
  optional: true,
});

/** A field of a card that shows only for some members: a badge. */
const WHEN: NodeField = {
  control: 'formula',
  path: 'when',
  label: 'Show only if',
  placeholder: 'Always',
  use: 'condition',
  optional: true,
};

/** A picture of a member, by the fields that products have. */
export const newPicture = (as: string) => ({
  show: 'picture' as const,
  src: `{{ ${as}.image }}`,
  alt: `{{ ${as}.name }}`,
  href: `{{ ${as}.url }}`,
});
/** Its price, with the one before. */
export const newPrice = (as: string) => ({
  show: 'price' as const,
  price: `${as}.price`,
  was: `${as}.was_price`,
});

/** What a card can show, field by field. */
export const CARD_FIELDS: readonly MemberKind[] = [
  {
    show: 'picture',
    name: 'Picture',
    make: newPicture,
    fields: [
      { control: 'line', path: 'src', label: 'Address', holds: 'picture', alt: 'alt' },
      { control: 'line', path: 'alt', label: 'Alt text', holds: 'text' },
      { control: 'line', path: 'href', label: 'Link', holds: 'link', optional: true },
      {
        control: 'choice',
        as: 'menu',
        path: 'blank',
        label: 'Without a picture',
        options: [
          { value: 'square', label: 'A quiet square' },
          { value: 'wide', label: 'A quiet space, 4 to 3' },
          { value: 'none', label: 'Nothing: the text moves up' },
        ],
        initial: 'square',
      },
      RATIO_FIELD,
      {
        control: 'choice',
        as: 'bar',
        path: 'fit',
        label: 'In that shape',
        optional: true,
        initial: 'cut',
        options: [
          { value: 'cut', label: 'Cut' },
          { value: 'whole', label: 'Whole' },
        ],
      },
    ],
  },
  {
    show: 'words',
    name: 'Text',
    make: (as) => ({ show: 'words', text: `{{ ${as}.description }}`, weight: 'quiet' }),
    fields: [
      { control: 'line', path: 'text', label: 'Text', holds: 'text' },
      {
        control: 'choice',
        as: 'menu',
        path: 'weight',
        label: 'Weight',
        options: [
          { value: 'strong', label: 'Bold' },
          { value: 'plain', label: 'Regular' },
          { value: 'quiet', label: 'Secondary' },
        ],
      },
      { control: 'line', path: 'href', label: 'Link', holds: 'link', optional: true },
      {
        control: 'number',
        path: 'lines',
        label: 'Cut after',
        placeholder: 'Never',
        optional: true,
        least: 1,
        most: 10,
        unit: 'lines',
      },
      WHEN,
    ],
  },
  {
    show: 'price',
    name: 'Price',
    make: newPrice,
    fields: [
      { control: 'formula', path: 'price', label: 'Price', use: 'value' },
      {
        control: 'formula',
        path: 'was',
        label: 'Price before',
        placeholder: 'None',
        use: 'value',
        optional: true,
      },
      {
        control: 'choice',
        as: 'menu',
        path: 'saving',
        label: 'Saving',
        initial: 'none',
        options: [
          { value: 'none', label: 'Not shown' },
          { value: 'money', label: 'As money' },
          { value: 'percent', label: 'In percent' },
        ],
      },
      {
        control: 'number',
        path: 'tax',
        label: 'Tax added',
        help: 'If the prices in the data exclude it',
        placeholder: 'None',
        optional: true,
        least: 0,
        most: 100,
        unit: '%',
      },
    ],
  },
  {
    show: 'button',
    name: 'Button',
    make: (as) => ({ show: 'button', label: 'View', href: `{{ ${as}.url }}` }),
    fields: [
      { control: 'line', path: 'label', label: 'Label', holds: 'text' },
      { control: 'line', path: 'href', label: 'Link', holds: 'link' },
      WHEN,
    ],
  },
];
