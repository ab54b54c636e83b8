import { z } from 'zod';
import { defineStart } from '../define';

/** Membership is kept by the engine; this says which segment and which way. */
export const segmentChanged = defineStart({
  kind: 'segment_changed',
  name: 'Somebody enters or leaves a segment',
  description: 'As soon as that is known of them.',
  schema: z.strictObject({
    kind: z.literal('segment_changed'),
    segment: z.string().max(100),
    change: z.enum(['entered', 'left']),
  }),
  make: () => ({ kind: 'segment_changed' as const, segment: '', change: 'entered' as const }),
  fields: [
    {
      ...{ control: 'choice', path: 'change', before: 'Somebody has' },
      options: [
        { value: 'entered', label: 'entered' },
        { value: 'left', label: 'left' },
      ],
    },
    { control: 'segment', path: 'segment', before: '' },
  ],
  say: ({ segment, change }) =>
    `When somebody has ${change} ${segment === '' ? 'a segment' : `“${segment}”`}`,
  // The engine compares what was with what is: see `watchSegments`.
  causes: () => [],
});
