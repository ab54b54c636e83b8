import type { RenderAnswer } from '@carafe/contract';
import { build } from '@carafe/core/build';
import { catalogNeeds, dataRead, sayCut } from '@carafe/core/check';
import { fieldOf, isRecord, parsedFormula, rootsOf, type Fields } from '@carafe/core/formula';
import { reviveRecord } from '@carafe/core/record';
import type { Asked } from '@carafe/core/recommend';
import { bitOf, prepare, Tally, type Decision } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import { nodeNames, type Template } from '@carafe/core/template';
import type { PeopleRepository } from '../people/repository';
import { picksOfMany, picksOfStranger } from '../recommend/picks';
import { asKnown } from '../occasions/shopMoments';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';

export interface RenderTask {
  template: Template;
  records: Record<string, unknown>[];
  /** ISO 8601. */
  asOf: string;
  locale?: string | undefined;
  trail: boolean;
  /** Where links in emails lead to Carafe. */
  base: string;
}
export type RenderedRecords = Omit<RenderAnswer, 'template_version'>;
type Rendered = RenderedRecords['mails'][number];

export type RenderParts = SharedParts &
  Parameters<typeof picksOfMany>[0] & { people: Pick<PeopleRepository, 'idOf' | 'tokens'> };

/** An answer holds at most this many characters of HTML. */
const MAX_ANSWER = 100_000_000;

const emailOf = (record: Fields): string | null => {
  const person = fieldOf(record, 'person');
  const email = isRecord(person) ? fieldOf(person, 'email') : undefined;
  return typeof email === 'string' && email.trim() !== '' ? email.trim() : null;
};

/** What rules are asked for somebody whom the shop does not know: by the cart and the order of the record. */
function strangerIn(record: Fields, email: string, now: number): Asked {
  const skus = (root: string): string[] => {
    const holder = fieldOf(record, root);
    const lines = isRecord(holder) ? fieldOf(holder, 'lines') : undefined;
    if (!Array.isArray(lines)) return [];
    return lines.flatMap((line: unknown) => {
      const sku = isRecord(line) ? fieldOf(line, 'sku') : undefined;
      return typeof sku === 'string' ? [sku] : [];
    });
  };
  return { person: email.toLowerCase(), cart: skus('cart'), latest: skus('order'), record, now };
}

/** What the template's shop adds to a record that lacks it: its own data, its links, and what rules pick. */
function completed(
  parts: RenderParts,
  { template, asOf, base }: RenderTask,
): (record: Fields) => Fields {
  const sites = templateSites(template);
  const shared = sharedDataOf(parts, template.shop, new Date(asOf), catalogNeeds(sites));
  const readsPicks = dataRead(sites).includes('picks');
  return (record) => {
    const email = emailOf(record);
    const added: Record<string, unknown> = {};
    if (shared)
      for (const root of ['shop', 'catalog', 'feeds', 'coupon'] as const)
        if (fieldOf(record, root) === undefined) added[root] = shared[root];
    if (email !== null && fieldOf(record, 'links') === undefined) {
      const token = encodeURIComponent(
        parts.people.tokens.make({ shop: template.shop, email: email.toLowerCase() }),
      );
      added['links'] = {
        unsubscribe: `${base}/mail/unsubscribe/${token}`,
        preferences: `${base}/mail/preferences/${token}`,
      };
    }
    if (readsPicks && email !== null && fieldOf(record, 'picks') === undefined) {
      const ready = asKnown(template.shop, Date.parse(asOf));
      const id = parts.people.idOf(template.shop, email.toLowerCase());
      const picks =
        id === null
          ? picksOfStranger(parts, ready, strangerIn(record, email, Date.parse(asOf)))
          : picksOfMany(parts, { ...ready, ids: [id] })[id];
      if (picks) added['picks'] = picks;
    }
    return { ...record, ...added } as Fields;
  };
}

const BLANK = { value: bitOf('value', 'blank'), address: bitOf('address', 'blank') };

/** What a formula reads that a record does not have at all: an order, a cart. */
function lackedBy(record: Fields, formula: string): string | null {
  const parsed = parsedFormula(formula.replace(/^\{\{|\}\}$/g, ''));
  if (!parsed.ok) return null;
  for (const root of rootsOf(parsed.value) ?? [])
    if (
      ['cart', 'order', 'orders', 'person', 'event', 'picks', 'coupon'].includes(root) &&
      fieldOf(record, root) === undefined
    )
      return root;
  return null;
}

/** Fills a template for some records; null where the emails are too large for one answer. */
export async function renderRecords(
  parts: RenderParts,
  task: RenderTask,
): Promise<RenderedRecords | null> {
  const { template, locale } = task;
  const { program, findings } = await build(template);
  const hasError = findings.some(({ severity }) => severity === 'error');
  const tally = new Tally();
  const render = prepare(program, { tally });
  const explain = task.trail ? prepare(program, { trail: true }) : null;
  const complete = completed(parts, task);
  const nameOf = nodeNames(template);
  const asOf = new Date(task.asOf);
  const mails: Rendered[] = [];
  let length = 0;
  /** What came out blank, each place once. */
  const blanksOf = (record: Fields) =>
    tally.decisions.flatMap(({ kind, node, path, formula }: Decision, i) => {
      if (kind !== 'value' && kind !== 'address') return [];
      if (((tally.bits[i] ?? 0) & BLANK[kind]) === 0) return [];
      const lacked = lackedBy(record, formula);
      const what = kind === 'address' ? 'has no address' : 'is blank';
      const why = lacked === null ? '' : `: the record has no “${lacked}”`;
      const message = `“${nameOf(node)}”: {{ ${formula.replace(/^\{\{\s*|\s*\}\}$/g, '')} }} ${what}${why}.`;
      return [{ blank: { node, path, message }, lacked }];
    });
  for (const given of task.records) {
    const record = complete(reviveRecord(given) as Fields);
    const { mail, held, cut } = render(record, { asOf, locale });
    const trail = explain?.(record, { asOf, locale }).trail;
    length += mail.html.length;
    if (length > MAX_ANSWER) return null;
    const blanks = blanksOf(record);
    const isBroken = hasError || cut !== undefined || blanks.some(({ lacked }) => lacked !== null);
    const { to_name, subject, preview_text, html, text, headers } = mail;
    mails.push({
      state: isBroken ? 'broken' : blanks.length > 0 ? 'blank_parts' : 'whole',
      blanks: blanks.map(({ blank }) => blank),
      from: { name: mail.from, address: program.fromEmail },
      to: emailOf(record),
      ...(to_name !== undefined && { to_name }),
      ...{ subject, preview_text, html, text, headers },
      ...(held && { held }),
      ...(cut && { cut: { node: cut.node, path: cut.path, message: sayCut(template, cut) } }),
      ...(trail && { trail }),
    });
  }
  return { mails, findings };
}
