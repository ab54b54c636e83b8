import { nameOf, outcomes } from '../ask';
import { defineCheck, ofPeople } from '../define';

export const missingPicture = defineCheck({
  name: 'missing_picture',
  label: 'Pictures are there for everybody',
  find: (context) =>
    outcomes(context, 'address', 'blank')
      .filter(({ decision, people }) => people > 0 && /src|still|image/.test(decision.path))
      .map(({ decision: { node, path }, people, person, asked }) => ({
        ...{ severity: 'hint' as const, node, path, people },
        message: `“${nameOf(context.template, node)}” misses a picture for ${ofPeople(people, asked)} who get to it; a quiet stand-in keeps its place.`,
        ...(person !== null && { person }),
      })),
});
