import type { RenderAnswer, RenderRequest } from '@carafe/contract';
import { build, type Built } from '@carafe/core/build';
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
    const { mail, trail, held } = render(reviveRecord(record) as Fields, {
      asOf,
      locale: task.locale,
    });
    length += mail.html.length;
    if (length > MAX_ANSWER) return null;
    const { subject, preview_text, html, text, headers } = mail;
    mails.push({
      subject,
      preview_text,
      html,
      text,
      headers,
      ...(held && { held }),
      ...(trail && { trail }),
    });
  }
  return { mails, findings };
}

/** So many built templates are kept: what is open on a desk is asked for again and again. */
const MOST_KEPT = 4;

/** Builds templates and fills them, beside the server. */
export class RenderService {
  /** The latest templates that were built, or still are, by their text. */
  private readonly built = new Map<string, Promise<Built>>();

  constructor(
    private readonly parts: LibraryParts & { templates: Pick<TemplatesRepository, 'find'> },
    private readonly jobs: Jobs<RenderJobs>,
    private readonly now: () => Date,
  ) {}

  build(document: unknown): Promise<Built> {
    return this.builtOf(templateOrRefuse(document));
  }

  /** Builds what will be asked for next, when whoever waits has their answer. */
  buildAhead(stored: Template): void {
    setImmediate(() => {
      Promise.resolve(stored)
        .then((template) => this.builtOf(template))
        // What is wrong with it is told to whoever asks.
        .catch(() => undefined);
    });
  }

  /** Builds a template once, however many ask for it at a time. */
  private builtOf(given: Template): Promise<Built> {
    const template = expandedOf(this.parts, given);
    const key = JSON.stringify(template);
    const building = this.built.get(key) ?? this.jobs.run('build', template);
    this.built.delete(key);
    this.built.set(key, building);
    building.catch(() => this.built.delete(key));
    const [oldest = ''] = this.built.keys();
    if (this.built.size > MOST_KEPT) this.built.delete(oldest);
    return building;
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
