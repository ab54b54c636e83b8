import type { RenderAnswer, RenderRequest } from '@carafe/contract';
import type { Built, Skeletons } from '@carafe/core/build';
import { readDate } from '@carafe/core/formula';
import type { Template } from '@carafe/core/template';
import { Refusal } from '../http/errors';
import type { Job, Jobs } from '../jobs/jobs';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import { templateOrRefuse } from '../templates/service';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { TemplatesRepository } from '../templates/repository';
import type { RenderedRecords, RenderTask } from './renderRecords';

export interface RenderJobs {
  build: Job<Template, Built>;
  skeletons: Job<Template, Skeletons>;
  /** Null where the mails are too large for one answer. */
  render: Job<RenderTask, RenderedRecords | null>;
}

/** So many templates that were made ready are kept: those that desks are about to ask for. */
const MOST_KEPT = 4;

/** Builds templates and fills them, beside the server. */
export class RenderService {
  /** The latest that were made ready, or still are, by the template's text. */
  private readonly made = new Map<string, Promise<Skeletons>>();

  constructor(
    private readonly parts: LibraryParts & {
      templates: Pick<TemplatesRepository, 'find'>;
      published: Pick<PublishedRepository, 'last' | 'document'>;
    },
    private readonly jobs: Jobs<RenderJobs>,
    private readonly now: () => Date,
    /** Where links in emails lead to Carafe. */
    private readonly base: () => string = () => '',
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
    const { document, number } = this.templateOf(asked);
    const template = expandedOf(this.parts, document);
    const base = this.base();
    const task = { template, records, asOf, locale, trail, base };
    const answer = await this.jobs.run('render', task);
    if (!answer)
      throw new Refusal(
        413,
        'These emails are too large for one answer. Send fewer records at once.',
      );
    return { ...answer, template_version: number };
  }

  /** What is filled: of a stored template what was published, unless something else is asked for. */
  private templateOf({ template, template_id, version = 'published' }: RenderRequest): {
    document: Template;
    number: number | null;
  } {
    if (template !== undefined) return { document: templateOrRefuse(template), number: null };
    if (template_id === undefined)
      throw new Refusal(400, 'Say what to fill: “template” or “template_id”.');
    const stored = this.parts.templates.find(template_id);
    if (!stored) throw new Refusal(404, `There is no template “${template_id}”.`);
    if (version === 'draft') return { document: stored.template as Template, number: null };
    const number = version === 'published' ? this.parts.published.last(template_id) : version;
    const document = this.parts.published.document(template_id, number);
    if (document) return { document, number };
    throw new Refusal(
      409,
      version === 'published'
        ? 'This template was never published. Publish it, or ask for "version": "draft".'
        : `There is no published version ${number} of this template.`,
    );
  }
}
