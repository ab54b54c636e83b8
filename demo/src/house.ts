import {
  blankTemplate,
  composer,
  countedIds,
  foot,
  masthead,
  type Template,
} from '@carafe/core/template';

/** The shop that the templates are of, and who sends its mails. */
export const SHOP = 'quillmoss-gb';
export const SENDER = 'post@quillmoss.example';
export const ADDRESS = { url: 'https://shop.quillmoss.example', address: 'Nether Quill' };
export const GREETING = 'Dear {{ title(person.first_name) otherwise "gardener" }},';

export type Composer = ReturnType<typeof composer>;

/** A mail of the house: its head and foot round what is written. */
export function letter(
  name: string,
  subject: string,
  preview: string,
  write: (c: Composer) => Template['sections'],
): Template {
  const newId = countedIds();
  const template = blankTemplate(name, SHOP, [
    masthead(newId, ADDRESS),
    ...write(composer(newId)),
    foot(newId, ADDRESS),
  ]);
  return {
    ...template,
    envelope: { ...template.envelope, from_email: SENDER, subject, preview_text: preview },
  };
}
