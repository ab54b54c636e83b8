import { parsedFormula } from '../formula';
import { allSteps, sendsOf, type Occasion } from './occasion';

/** What is wrong with an occasion, or ought to be looked at. */
export interface Problem {
  severity: 'error' | 'warning';
  /** The step; null for the start and whom it is for. */
  step: string | null;
  message: string;
  /** The template that it is about, where one is. */
  template?: string;
}

export interface Known {
  /** Ids of templates that can go out: those that were published. */
  published: ReadonlySet<string>;
  /** What templates are called, by id. */
  templates: ReadonlyMap<string, string>;
  /** Ids of templates that still hold words that stood there from the beginning, with those words. */
  unwritten: ReadonlyMap<string, string>;
  segments: ReadonlySet<string>;
  feeds: ReadonlySet<string>;
  /** Other occasions that are on, by id. */
  others: readonly Occasion[];
}

const unreadable = (formula: string): string | null => {
  const parsed = parsedFormula(formula);
  return parsed.ok ? null : parsed.error.message;
};

function* ofStart({ start, whom }: Occasion, known: Known): Generator<Problem> {
  const error = (message: string): Problem => ({ severity: 'error', step: null, message });
  if (start.kind === 'segment_changed' && !known.segments.has(start.segment))
    yield error(
      start.segment === ''
        ? 'Choose the segment that is entered or left.'
        : `The segment “${start.segment}” no longer exists. Choose another.`,
    );
  if (start.kind === 'post_published' && !known.feeds.has(start.feed))
    yield error(
      start.feed === '' ? 'Choose a feed.' : `The feed “${start.feed}” no longer exists.`,
    );
  if (start.kind === 'order_placed' && start.which === 'product' && !start.skus?.length)
    yield error('Choose the products.');
  if (start.kind === 'order_placed' && start.which === 'category' && !start.category?.trim())
    yield error('Choose the category.');
  for (const name of [whom.segment, whom.without])
    if (name && !known.segments.has(name))
      yield error(`The segment “${name}” no longer exists. Choose another, or remove it.`);
  const wrong = whom.where?.trim() ? unreadable(whom.where) : null;
  if (wrong) yield error(`The condition for who gets it cannot be read: ${wrong}`);
}

function* ofSteps(occasion: Occasion, known: Known): Generator<Problem> {
  const seen = new Set<string>();
  for (const step of allSteps(occasion.steps)) {
    const error = (message: string): Problem => ({ severity: 'error', step: step.id, message });
    if (seen.has(step.id)) yield error('Two steps have the same id. Delete one of them.');
    seen.add(step.id);
    const formulas =
      step.kind === 'guard'
        ? [step.when]
        : step.kind === 'branch'
          ? step.ways.map(({ when }) => when)
          : [];
    for (const formula of formulas) {
      const wrong = unreadable(formula);
      if (formula.trim() === '') yield error('Enter a condition.');
      else if (wrong) yield error(`This condition cannot be read: ${wrong}`);
    }
    if (step.kind !== 'send') continue;
    const { template } = step;
    const name = known.templates.get(template);
    if (template === '') yield error('Choose the template to send.');
    else if (name === undefined)
      yield error('The template of this step was deleted. Choose another.');
    else if (!known.published.has(template))
      yield { ...error(`“${name}” was never published. Publish it first.`), template };
    const left = known.unwritten.get(template);
    if (left !== undefined)
      yield {
        ...{ severity: 'warning' as const, step: step.id, template },
        message: `“${name ?? 'Its template'}” still contains the placeholder text “${left}”. Replace it before anyone gets the email.`,
      };
  }
  if (sendsOf(occasion).length === 0)
    yield { severity: 'error', step: null, message: 'Nothing is sent: add a step that sends.' };
}

function* beside(occasion: Occasion, { others }: Known): Generator<Problem> {
  const { start } = occasion;
  const confirms = (one: Occasion) =>
    one.start.kind === 'order_placed' &&
    sendsOf(one).some(
      ({ mail, to, mode }) => mail === 'service' && to === 'person' && mode !== 'off',
    );
  if (start.kind !== 'order_placed' || !confirms(occasion)) return;
  for (const other of others.filter(confirms))
    yield {
      ...{ severity: 'warning', step: null },
      message: `“${other.name}” also writes about placed orders, so somebody may get two confirmations for one order.`,
    };
}

/** All that is wrong with an occasion; one with an error cannot be switched on. */
export function problemsOf(occasion: Occasion, known: Known): Problem[] {
  return [...ofStart(occasion, known), ...ofSteps(occasion, known), ...beside(occasion, known)];
}
