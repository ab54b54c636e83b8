import { inferShape, type Shape } from '@carafe/core/shape';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** A mail as expectations read it. */
const MAIL = inferShape([
  {
    mail: {
      ...{ subject: 'A subject', preview_text: 'Words', text: 'Words', size: 20_000 },
      links: [{ address: 'https://shop.example', text: 'Shop' }],
      pictures: [{ address: 'https://shop.example/p.png', alt: 'A picture' }],
      shown: [t('masthead')],
    },
  },
]);

/** The shape of the data with the mail beside it. */
export function mailShape(shape: Shape): Shape {
  if (shape.kind !== 'record' || MAIL.kind !== 'record') return shape;
  return { ...shape, fields: { ...shape.fields, ...MAIL.fields } };
}
