import { parsedRunning } from '../../formula';
import { defineCheck } from '../define';

/** A phone shows about so many characters of a subject. */
const SHOWN = 35;

export const subjectCut = defineCheck({
  name: 'subject_cut',
  label: 'The subject says what is the person’s own before it is cut',
  find({ template: { envelope } }) {
    const parsed = parsedRunning(envelope.subject);
    if (!parsed.ok) return [];
    let words = 0;
    for (const part of parsed.value) {
      if (part.type === 'tag') break;
      words += Array.from(part.text).length;
    }
    const hasTag = parsed.value.some(({ type }) => type === 'tag');
    if (!hasTag || words < SHOWN) return [];
    return [
      {
        ...{ severity: 'warning' as const, node: '', path: 'subject' },
        message: `A phone cuts the subject after about ${SHOWN} characters, before its first merge tag. Put the tag further to the front.`,
      },
    ];
  },
});
