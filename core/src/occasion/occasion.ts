import { z } from 'zod';
import { Address, MOST_ADDRESSES } from './addresses';
import { ClockTime, Weekdays } from './clockTime';
import { Duration } from './duration';
import { STARTS } from './starts';

const schemas = Object.values(STARTS).map(({ schema }) => schema);
type Schemas = [z.ZodObject<{ kind: z.ZodLiteral }>, ...z.ZodObject<{ kind: z.ZodLiteral }>[]];
const Start = z.discriminatedUnion('kind', schemas as unknown as Schemas) as unknown as z.ZodType<
  z.infer<(typeof schemas)[number]>
>;
export type Start = z.infer<typeof Start>;

const Formula = z.string().max(4000);
const id = z.string().min(1).max(40);

const Wait = z.strictObject({
  id,
  kind: z.literal('wait'),
  /** Either so long, or until clocks of the person show a time. */
  for: Duration.optional(),
  until: z.strictObject({ time: ClockTime, days: Weekdays.optional() }).optional(),
});
const Guard = z.strictObject({
  id,
  kind: z.literal('guard'),
  when: Formula,
  /** When it does not hold: all ends, what follows up to the next email is skipped, or it is checked again. */
  otherwise: z.enum(['stop', 'skip', 'ask_again']),
  every: Duration.optional(),
  up_to: Duration.optional(),
});
const Send = z.strictObject({
  id,
  kind: z.literal('send'),
  template: z.string().max(100),
  /** Marketing goes to those alone who agreed to it. */
  mail: z.enum(['marketing', 'service']),
  mode: z.enum(['off', 'held', 'on']),
  /** The owner is written to at the shop's own address. */
  to: z.enum(['person', 'owner']),
});
type Leaf = z.infer<typeof Wait> | z.infer<typeof Guard> | z.infer<typeof Send>;
export interface Branch {
  id: string;
  kind: 'branch';
  ways: { when: string; steps: Step[] }[];
  otherwise: Step[];
}
export type Step = Leaf | Branch;
export type SendStep = z.infer<typeof Send>;
export type GuardStep = z.infer<typeof Guard>;
export type WaitStep = z.infer<typeof Wait>;

/** Branches stand in branches so deep at most. */
const MOST_DEEP = 4;
const stepsAt = (depth: number): z.ZodType<Step[]> => {
  const branch =
    depth >= MOST_DEEP
      ? null
      : z.strictObject({
          id,
          kind: z.literal('branch'),
          ways: z
            .array(z.strictObject({ when: Formula, steps: stepsAt(depth + 1) }))
            .min(1)
            .max(5, 'A step can have at most 5 branches.'),
          otherwise: stepsAt(depth + 1),
        });
  const step = branch ? z.union([Wait, Guard, Send, branch]) : z.union([Wait, Guard, Send]);
  return z.array(step as unknown as z.ZodType<Step>).max(30, 'A branch can have at most 30 steps.');
};

/** Who may come in. Consent is asked for at each marketing mail, not here. */
const Whom = z.strictObject({
  /** The name of a segment of the shop. */
  segment: z.string().max(100).optional(),
  /** Nobody of this segment. */
  without: z.string().max(100).optional(),
  where: Formula.optional(),
  guests: z.boolean(),
  /** These alone, one address each. */
  addresses: z.array(Address).max(MOST_ADDRESSES, 'At most 10,000 addresses.').optional(),
  /** Nobody comes in again before so many days are gone since its last mail to them. */
  rest_days: z.number().int().min(0).max(3650).optional(),
});

/** When a template goes out: what starts it, to whom, and the steps. */
export const Occasion = z.strictObject({
  name: z.string().trim().min(1, 'An occasion needs a name.').max(100),
  start: Start,
  whom: Whom,
  /** What becomes of a marketing email that a limit of the shop keeps back: it goes later, unless it says otherwise. */
  over_limit: z.enum(['postpone', 'drop']).optional(),
  /** Of two that answer one cause, and where a person has their share of mails: the higher goes first. */
  priority: z.number().int().min(0).max(10),
  steps: stepsAt(0),
});
export type Occasion = z.infer<typeof Occasion>;

/** All steps, those in branches too, in reading order. */
export function allSteps(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) =>
    step.kind === 'branch'
      ? [step, ...step.ways.flatMap((way) => allSteps(way.steps)), ...allSteps(step.otherwise)]
      : [step],
  );
}

export const sendsOf = ({ steps }: Pick<Occasion, 'steps'>): SendStep[] =>
  allSteps(steps).filter((step) => step.kind === 'send');

/** All formulas of an occasion. */
export function formulasOf({ whom, steps }: Occasion): string[] {
  return [
    whom.where ?? '',
    ...allSteps(steps).flatMap((step) =>
      step.kind === 'guard'
        ? [step.when]
        : step.kind === 'branch'
          ? step.ways.map(({ when }) => when)
          : [],
    ),
  ];
}
