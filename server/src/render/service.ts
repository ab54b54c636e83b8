import type { RenderAnswer, RenderRequest } from '@carafe/contract';
import { sayCut } from '@carafe/core/check';
import { build, type Built, type Skeletons } from '@carafe/core/build';
import { readDate, type Fields } from '@carafe/core/formula';
import { reviveRecord } from '@carafe/core/record';
import { prepare } from '@carafe/core/render';
import type { Template } from '@carafe/core/template';
import { Refusal } from '../http/errors';
import type { Job, Jobs } from '../jobs/jobs';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import { templateOrRefuse } from '../templates/service';
import type { TemplatesRepository } from '../templates/repository';

interface RenderTask {
  template: Template;
  records: Record<string, unknown>[];
  /** ISO 8601. */
  asOf: string;
  locale?: string | undefined;
  trail: boolean;
}
export interface RenderJobs {
  build: Job<Template, Built>;
  skeletons: Job<Template, Skeletons>;
  /** Null where the mails are too large for one answer. */
  render: Job<RenderTask, RenderAnswer | null>;
}

/** An answer holds at most this many characters of HTML. */
const MAX_ANSWER = 100_000_000;

/** Fills a template for some records. */
export async function renderRecords(task: RenderTask): Promise<RenderAnswer | null> {
  const { program, findings } = await build(task.template);
  const render = prepare(program, { trail: task.trail });
  const asOf = new Date(task.asOf);
  const mails: RenderAnswer['mails'] = [];
  let length = 0;
  for (const record of task.records) {
    const { mail, trail, held, cut } = render(reviveRecord(record) as Fields, {
      asOf,
      locale: task.locale,
    });
    length += mail.html.length;
    if (length > MAX_ANSWER) return null;
    const { to_name, subject, preview_text, html, text, headers } = mail;
    mails.push({
      ...(to_name !== undefined && { to_name }),
      subject,
      preview_text,
      html,
      text,
      headers,
      ...(held && { held }),
      ...(cut && {
        cut: { node: cut.node, path: cut.path, message: sayCut(task.template, cut) },
      }),
      ...(trail && { trail }),
    });
  }
  return { mails, findings };
}

/** So many templates that were made ready are kept: those that desks are about to ask for. */
const MOST_KEPT = 4;

/** Builds templates and fills them, beside the server. */
export class RenderService {
  /** The latest that were made ready, or still are, by the template's text. */
  private readonly made = new Map<string, Promise<Skeletons>>();

  constructor(
    private readonly parts: LibraryParts & { templates: Pick<TemplatesRepository, 'find'> },
    private readonly jobs: Jobs<RenderJobs>,
    private readonly now: () => Date,
  ) {}

  skeletons(document: unknown): Promise<Skeletons> {
    return this.skeletonsOf(templateOrRefuse(document));
  }

  /** Makes ready what will be asked for next, when whoever waits has their answer. */
  makeAhead(stored: Template): void {
    setImmediate(() => {
      Promise.resolve(stored)
        .then((template) => this.skeletonsOf(template))
        // What is wrong with it is told to whoever asks.
        .catch(() => undefined);
    });
  }

  /** What MJML makes of a template just as it is, once, however many ask for it at a time. */
  private skeletonsOf(template: Template): Promise<Skeletons> {
    const key = JSON.stringify(template);
    const making = this.made.get(key) ?? this.jobs.run('skeletons', template);
    this.made.delete(key);
    this.made.set(key, making);
    making.catch(() => this.made.delete(key));
    const [oldest = ''] = this.made.keys();
    if (this.made.size > MOST_KEPT) this.made.delete(oldest);
    return making;
  }

  async render(asked: RenderRequest): Promise<RenderAnswer> {
    const { records, locale, trail = false } = asked;
    const asOf = ((asked.as_of && readDate(asked.as_of)) || this.now()).toISOString();
    const template = expandedOf(this.parts, this.templateOf(asked));
    const answer = await this.jobs.run('render', { template, records, asOf, locale, trail });
    if (!answer)
      throw new Refusal(
        413,
        'These mails are too large for one answer: send fewer records at once.',
      );
    return answer;
  }

  private templateOf({ template, template_id }: RenderRequest): Template {
    if (template !== undefined) return templateOrRefuse(template);
    if (template_id === undefined)
      throw new Refusal(400, 'Say what to fill: “template” or “template_id”.');
    const stored = this.parts.templates.find(template_id);
    if (!stored) throw new Refusal(404, `There is no template “${template_id}”.`);
    return stored.template as Template;
  }
}
