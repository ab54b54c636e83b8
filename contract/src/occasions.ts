import type { Template } from '@carafe/core/template';
import {
  Occasion,
  Segment,
  ShopRules,
  type OccasionFigures,
  type Problem,
} from '@carafe/core/occasion';
import { z } from 'zod';
import { carried, endpoint, OfVersion } from './endpoint';

const Time = z.iso.datetime();

const StoredOccasion = z.object({
  id: z.string(),
  /** The draft. */
  occasion: Occasion,
  /** Counts up with every save. */
  version: z.number(),
  /** The version that is on, or was last; null before the first. */
  published: z.number().nullable(),
  /** Since when it is on; null while it is off. */
  on_since: Time.nullable(),
  /** The draft differs from what is on. */
  differs: z.boolean(),
  problems: carried<Problem[]>('What is wrong with the draft'),
  /** How many people are inside, and how many may come in. */
  inside: z.number(),
  armed: z.number(),
  /** When somebody is looked at next. */
  next: Time.nullable(),
  /** By step: how many people wait for it, and mails by their state. */
  steps: z.array(
    z.object({
      step: z.string(),
      waiting: z.number(),
      mails: z.record(z.string(), z.number()),
    }),
  ),
});
export type StoredOccasion = z.infer<typeof StoredOccasion>;

const InsideRow = z.object({
  email: z.string(),
  name: z.string(),
  entered: Time.nullable(),
  due: Time,
  step: z.string().nullable(),
  cause: z.string(),
  version: z.number(),
});
export type InsideRow = z.infer<typeof InsideRow>;

/** What a condition asked, as it was: fields in words; without a source, for how many of a list something held. */
export const AskedParts = z.array(z.object({ source: z.string(), value: z.string() }));
export type AskedParts = z.infer<typeof AskedParts>;

/** One thing that happened to a person in an occasion, or would have. */
const WalkLine = z.object({
  at: Time,
  kind: z.string(),
  occasion: z.string(),
  cause: z.string(),
  step: z.string().nullable(),
  text: z.string(),
  /** Of a condition: whether it held, and the value of each part. */
  held: z.boolean().nullable(),
  parts: AskedParts,
});
export type WalkLine = z.infer<typeof WalkLine>;

const Name = z.string().max(300).optional();
const About = z.strictObject({ order: Name, cart: Name, sku: Name, feed: Name, post: Name });

const Draft = z.strictObject({ id: z.string().max(40), occasion: Occasion });

const ReplayAnswer = z.object({
  figures: carried<OccasionFigures>('What it comes to for these people; figures of several add up'),
  people: z.number(),
  next: z.number().nullable(),
  from: Time,
  /** Today, as it counted for these people: that of all the others, too. */
  as_of: Time,
});
export type ReplayAnswer = z.infer<typeof ReplayAnswer>;

const ListedCart = z.object({
  person: z.number(),
  email: z.string(),
  name: z.string(),
  consent: z.boolean(),
  /** The cart, or the order that is not paid. */
  what: z.string(),
  total: z.number(),
  currency: z.string(),
  since: Time,
  /** The last mail to them. */
  last_mail: Time.nullable(),
});
export type ListedCart = z.infer<typeof ListedCart>;

const SegmentCounted = Segment.extend({ version: z.string(), used_by: z.array(z.string()) });
export type SegmentCounted = z.infer<typeof SegmentCounted>;

export const occasionEndpoints = {
  listOccasions: endpoint({
    method: 'GET',
    path: '/shops/:shop/occasions',
    summary: 'When templates of a shop go out',
    answer: z.object({
      occasions: z.array(StoredOccasion),
      rules: ShopRules,
      /** Of the rules. */
      rules_version: z.string(),
    }),
  }),
  occasionPresets: endpoint({
    method: 'GET',
    path: '/shops/:shop/occasions/presets',
    summary: 'Occasions to start from, with the templates of the shop that fit',
    answer: z.object({ presets: z.array(Occasion) }),
  }),
  addOccasion: endpoint({
    method: 'POST',
    path: '/shops/:shop/occasions',
    summary: 'An occasion; it is off at first',
    body: Occasion,
    answer: StoredOccasion,
    status: 201,
  }),
  changeOccasion: endpoint({
    method: 'PUT',
    path: '/occasions/:id',
    summary:
      'Save the draft at a version; 409 where it was changed meanwhile. What is on stays as it is',
    body: z.strictObject({ version: z.number().int(), occasion: Occasion }),
    answer: StoredOccasion,
  }),
  deleteOccasion: endpoint({
    method: 'DELETE',
    path: '/occasions/:id',
    summary:
      'Delete an occasion; whoever is inside gets nothing more, and what waits in the outbox is stopped',
    answer: null,
  }),
  beforePublishing: endpoint({
    method: 'GET',
    path: '/occasions/:id/publishing',
    summary: 'What publishing the draft would mean: whom it reaches, and who is half way',
    answer: z.object({
      /** Who is inside, by the version that they go by to the end. */
      inside: z.array(z.object({ version: z.number(), people: z.number() })),
      /** Of one that starts by the clock: how many people it is for, and when first, as that clock shows it. */
      audience: z
        .object({
          ...{ people: z.number(), agreed: z.number() },
          /** Addresses of which nobody of the shop is. */
          strangers: z.number(),
          ...{ wall: z.string(), clock: z.enum(['shop', 'person']) },
        })
        .nullable(),
    }),
  }),
  beforeSending: endpoint({
    method: 'GET',
    path: '/occasions/:id/sending',
    summary:
      'What an occasion sends first: the published template, for a survey of the audience “occasion”',
    answer: z.object({
      sending: z
        .object({ template_id: z.string(), template: carried<Template>('The template') })
        .nullable(),
    }),
  }),
  publishOccasion: endpoint({
    method: 'POST',
    path: '/occasions/:id/publish',
    summary: 'Publish the draft at a version, and switch it on',
    body: z.strictObject({ version: z.number().int() }),
    answer: StoredOccasion,
  }),
  switchOff: endpoint({
    method: 'POST',
    path: '/occasions/:id/off',
    summary:
      'Switch an occasion off; whoever is inside gets nothing more. What waits in the outbox is stopped, or sent all the same',
    body: z
      .strictObject({ waiting: z.enum(['stop', 'send']).default('stop') })
      .default({ waiting: 'stop' }),
    answer: StoredOccasion,
  }),
  answerCrowd: endpoint({
    method: 'POST',
    path: '/occasions/:id/crowd',
    summary:
      'Answer for an occasion that very many people entered at once: send its emails, or stop them and switch it off',
    body: z.strictObject({ answer: z.enum(['send', 'stop']) }),
    answer: StoredOccasion,
  }),
  insideOf: endpoint({
    method: 'GET',
    path: '/occasions/:id/inside',
    summary: 'Who is inside, the next to be looked at first',
    query: z.object({
      limit: z.coerce.number().int().min(1).max(500).default(100),
      offset: z.coerce.number().int().min(0).default(0),
    }),
    answer: z.object({ people: z.array(InsideRow) }),
  }),
  startByHand: endpoint({
    method: 'POST',
    path: '/occasions/:id/hand',
    summary: 'Let people into an occasion that is on; each once for a name',
    body: z.strictObject({
      // Test recipients, whose ids are below 0, get no mail.
      people: z.array(z.number().int().min(1)).min(1).max(10_000),
      name: z.string().trim().min(1).max(100),
    }),
    answer: z.object({ entered: z.number(), mails: z.number() }),
  }),
  replay: endpoint({
    method: 'POST',
    path: '/shops/:shop/occasions/replay',
    summary:
      'What occasions would have done, or will do with simulated shoppers, for some people at a time',
    body: z.strictObject({
      occasions: z.array(Draft).min(1).max(20),
      mode: z.enum(['replay', 'rehearse']),
      days: z.number().int().min(1).max(400),
      seed: z.number().int().default(1),
      /** That of the first answer, so that all people are looked at as of one instant; else it is now. */
      as_of: Time.optional(),
      after: z.number().int().min(0).default(0),
      most: z.number().int().min(1).max(5_000).default(1_000),
    }),
    answer: ReplayAnswer,
  }),
  walk: endpoint({
    method: 'POST',
    path: '/shops/:shop/occasions/walk',
    summary: 'What an occasion would have done with one person, each condition with its values',
    body: z.strictObject({
      id: z.string().max(40),
      occasion: Occasion,
      person: z.number().int(),
      days: z.number().int().min(1).max(400),
    }),
    answer: z.object({ lines: z.array(WalkLine) }),
  }),
  replayedMail: endpoint({
    method: 'POST',
    path: '/shops/:shop/occasions/mail',
    summary: 'An email as it would have been, at an instant of the past or of a rehearsal',
    body: z.strictObject({
      template: z.string().max(100),
      person: z.number().int(),
      at: Time,
      /** What it is about. */
      about: About.default({}),
      /** What the occasion added to the record then; dates as ISO 8601. */
      past: z
        .record(z.string().max(60), z.union([z.string().max(300), z.number(), z.boolean()]))
        .default({}),
      /** Of a mail of a rehearsal: which one, so that the person does once more what was made up. */
      rehearsal: z
        .strictObject({
          days: z.number().int().min(1).max(400),
          seed: z.number().int().default(1),
          as_of: Time,
        })
        .optional(),
    }),
    answer: z.object({ subject: z.string(), html: z.string(), text: z.string() }),
  }),
  personWhy: endpoint({
    method: 'GET',
    path: '/shops/:shop/occasions/why',
    summary: 'What occasions did with a person, and what waits for them',
    query: z.object({ email: z.string().max(320) }),
    answer: z.object({
      inside: z.array(InsideRow.extend({ occasion: z.string(), occasion_name: z.string() })),
      lines: z.array(WalkLine.extend({ occasion_name: z.string() })),
    }),
  }),
  listByHand: endpoint({
    method: 'GET',
    path: '/shops/:shop/lists/:list',
    summary: 'Carts that are left now (`carts`), or orders that are not paid (`orders`)',
    answer: z.object({
      rows: z.array(ListedCart),
      /** How many there are: the latest of them are listed. */
      of: z.number().int(),
    }),
  }),
  changeMailRules: endpoint({
    method: 'PUT',
    path: '/shops/:shop/mail-rules',
    summary: 'What applies to all occasions of a shop',
    query: OfVersion,
    body: ShopRules,
    answer: ShopRules,
  }),
  listSegments: endpoint({
    method: 'GET',
    path: '/shops/:shop/segments',
    summary: 'Named conditions over the people of a shop',
    answer: z.object({ segments: z.array(SegmentCounted) }),
  }),
  addSegment: endpoint({
    method: 'POST',
    path: '/shops/:shop/segments',
    summary: 'A segment',
    body: Segment,
    answer: SegmentCounted,
    status: 201,
  }),
  changeSegment: endpoint({
    method: 'PUT',
    path: '/shops/:shop/segments/:name',
    summary: 'Change a segment',
    query: OfVersion,
    body: Segment,
    answer: SegmentCounted,
  }),
  deleteSegment: endpoint({
    method: 'DELETE',
    path: '/shops/:shop/segments/:name',
    summary: 'Delete a segment that nothing asks for',
    answer: null,
  }),
};
