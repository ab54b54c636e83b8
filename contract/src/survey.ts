import type { CheckFinding } from '@carafe/core/checks';
import type { PersonData } from '@carafe/core/record';
import type { Impact } from '@carafe/core/variant';
import { z } from 'zod';
import { carried, endpoint } from './endpoint';
import { Recipient } from './shops';

const Fact = z.object({ people: z.number(), person: z.number(), sample: z.string().max(20_000) });
const Facts = z.record(z.string().max(300), Fact);

/** A template filled for people: what was decided, in figures. See the variants of core. */
export const SurveyFigures = z.object({
  people: z.number().int(),
  variants: z.array(z.object({ key: z.string(), people: z.number(), person: z.number() })),
  facts: Facts,
  addresses: z.array(
    z.object({ decision: z.number(), only: z.string().nullable(), given: z.number() }),
  ),
  products: Facts,
  broken: z.array(z.object({ people: z.number(), persons: z.array(z.number()) })),
  decisions: z.array(
    z.object({
      kind: z.enum(['condition', 'list', 'value', 'address', 'picks']),
      ...{ node: z.string(), path: z.string(), formula: z.string() },
    }),
  ),
});

/** Whom a template is filled for: those who have the data that it reads, everybody, a segment, or whom an occasion sends to. */
export const AudienceChoice = z.discriminatedUnion('of', [
  z.strictObject({ of: z.literal('reads') }),
  z.strictObject({ of: z.literal('all') }),
  z.strictObject({ of: z.literal('segment'), name: z.string().max(200) }),
  z.strictObject({ of: z.literal('occasion'), occasion: z.string().max(100) }),
]);
export type AudienceChoice = z.infer<typeof AudienceChoice>;

const Piece = {
  audience: AudienceChoice.default({ of: 'reads' }),
  /** People after this id. */
  after: z.number().int().min(0).default(0),
  most: z.number().int().min(1).max(5_000).default(1_000),
};
const Pieced = {
  /** How many people of the shop were looked at, in the audience or not, and how many there are. */
  looked: z.number(),
  people: z.number(),
  /** What the next piece goes on after; null where there are no more. */
  next: z.number().nullable(),
};

export const LinkAnswer = z.object({
  address: z.string(),
  /** Where it stands. */
  node: z.string(),
  ok: z.boolean(),
  message: z.string(),
});
export type LinkAnswer = z.infer<typeof LinkAnswer>;

/** Marks of the mails that were seen, by variant. */
const Marks = z.object({ marks: z.record(z.string(), z.string()) });

const Name = z.string().trim().min(1, 'A test recipient has a name.').max(120);
export const TestRecipientData = z.object({
  id: z.number().int(),
  name: z.string(),
  data: carried<PersonData>('What is known of them: person, and shopper with cart and orders'),
});
export type TestRecipientData = z.infer<typeof TestRecipientData>;

export const surveyEndpoints = {
  survey: endpoint({
    method: 'POST',
    path: '/shops/:shop/survey',
    summary: 'Fill a template for some people at a time, and count its variants',
    body: z.strictObject({ template: z.unknown(), ...Piece }),
    answer: z.object({ survey: SurveyFigures, ...Pieced }),
  }),
  impact: endpoint({
    method: 'POST',
    path: '/shops/:shop/impact',
    summary: 'Whose mail differs between two versions of a template, some people at a time',
    body: z.strictObject({ before: z.unknown(), after_edit: z.unknown(), ...Piece }),
    answer: z.object({
      impact: carried<Impact>('Who is changed, in groups, worst first'),
      ...Pieced,
    }),
  }),
  checkTemplate: endpoint({
    method: 'POST',
    path: '/shops/:shop/checks',
    summary: 'What the checks say of a template, with what a survey of it came to',
    body: z.strictObject({
      template: z.unknown(),
      template_id: z.string().optional(),
      survey: SurveyFigures.nullable(),
    }),
    answer: z.object({
      findings: z.array(carried<CheckFinding>('A finding')),
      /** What each check holds, by its name. */
      labels: z.record(z.string(), z.string()),
    }),
  }),
  checkWhole: endpoint({
    method: 'POST',
    path: '/check',
    summary:
      'Fill a template for its whole audience, and check it: findings and the largest variants',
    body: z.strictObject({
      template: z.unknown().optional(),
      template_id: z.string().optional(),
      audience: AudienceChoice.default({ of: 'reads' }),
    }),
    answer: z.object({
      people: z.number(),
      variants: z.array(z.object({ words: z.string(), people: z.number(), person: z.number() })),
      findings: z.array(carried<CheckFinding>('A finding')),
    }),
  }),
  proposeExpectations: endpoint({
    method: 'POST',
    path: '/shops/:shop/expectations',
    summary: 'What is true of the email of everybody that a template is for, as formulas',
    body: z.strictObject({ template: z.unknown() }),
    answer: z.object({ people: z.number(), formulas: z.array(z.string()) }),
  }),
  fillDraft: endpoint({
    method: 'POST',
    path: '/shops/:shop/filled',
    summary: 'A template as it is, filled for one recipient',
    body: z.strictObject({
      ...{ template: z.unknown(), person: z.number().int() },
      /** With comments that tell where each part begins and ends. */
      bounds: z.boolean().optional(),
    }),
    answer: z.object({
      ...{ from: z.string(), subject: z.string(), preview_text: z.string() },
      ...{ html: z.string(), text: z.string(), held: z.boolean() },
      /** That it is cut off, and why; null where it is whole. */
      cut: z.string().nullable(),
    }),
  }),
  makeOne: endpoint({
    method: 'POST',
    path: '/shops/:shop/made',
    summary:
      'Make up a recipient who reaches a part of a template, and keep them as a test recipient',
    body: z.strictObject({
      template: z.unknown(),
      /** The node that is to show, or what is to come out of a decision. */
      target: z.union([
        z.strictObject({ node: z.string() }),
        z.strictObject({
          decision: z.strictObject({
            kind: z.enum(['condition', 'list', 'value', 'address', 'picks']),
            ...{ node: z.string(), path: z.string() },
          }),
          outcome: z.string().max(20),
        }),
      ]),
    }),
    answer: z.object({ recipient: Recipient, changes: z.array(z.string()) }),
  }),
  listTestRecipients: endpoint({
    method: 'GET',
    path: '/shops/:shop/test-recipients',
    summary: 'Recipients that are made up',
    answer: z.object({ recipients: z.array(TestRecipientData) }),
  }),
  addTestRecipient: endpoint({
    method: 'POST',
    path: '/shops/:shop/test-recipients',
    summary: 'A test recipient: as given, a copy of a real one to change, or one with nothing yet',
    body: z.union([
      z.strictObject({ name: Name, data: z.unknown() }),
      z.strictObject({ name: Name, like: z.number().int() }),
      z.strictObject({ name: Name }),
    ]),
    answer: TestRecipientData,
    status: 201,
  }),
  changeTestRecipient: endpoint({
    method: 'PUT',
    path: '/shops/:shop/test-recipients/:id',
    summary: 'Change a test recipient',
    body: z.strictObject({ name: Name, data: z.unknown() }),
    answer: TestRecipientData,
  }),
  deleteTestRecipient: endpoint({
    method: 'DELETE',
    path: '/shops/:shop/test-recipients/:id',
    summary: 'Delete a test recipient',
    answer: null,
  }),
  lookedVariants: endpoint({
    method: 'GET',
    path: '/templates/:id/looked',
    summary: 'Which variants of a template were looked at',
    answer: Marks,
  }),
  lookAtVariant: endpoint({
    method: 'PUT',
    path: '/templates/:id/looked',
    summary: 'Say that a variant was looked at, or that it was not',
    body: z.strictObject({
      variant: z.string().min(1).max(20_000),
      /** Of the mail that was seen, equal for equal mails; null for one that was not looked at. */
      mark: z.string().min(1).max(40).nullable(),
    }),
    answer: Marks,
  }),
  askLinks: endpoint({
    method: 'POST',
    path: '/shops/:shop/links',
    summary: 'Ask for the links and pictures of a recipient’s email, and tell which do not answer',
    body: z.strictObject({ template: z.unknown(), person: z.number().int() }),
    answer: z.object({ links: z.array(LinkAnswer) }),
  }),
};
