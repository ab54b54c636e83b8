import type { Conflict, CreateTemplate, StoredTemplate, TemplateSummary } from '@carafe/contract';
import { dataRead } from '@carafe/core/check';
import { sendsOf } from '@carafe/core/occasion';
import type { Mail } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import {
  fromLayout,
  LAYOUTS,
  placeInWords,
  readTemplate,
  type Template,
} from '@carafe/core/template';
import { LocalLane, type WriteLane } from '../database/lane';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { Job, Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { OccasionsRepository, StoredDraft } from '../occasions/repository';
import type { ShopsRepository } from '../shops/repository';
import type { SourcesRepository } from '../sources/repository';
import type { TemplateHealthRepository } from './healthRepository';
import type { TemplatesRepository } from './repository';

export interface PreviewJobs {
  preview: Job<{ template: Template; now: string; person?: number }, Mail | null>;
}

interface Given {
  store: Pick<Store, 'write'>;
  templates: TemplatesRepository;
  templateHealth: Pick<TemplateHealthRepository, 'get'>;
  shops: Pick<ShopsRepository, 'find'>;
  occasions: Pick<OccasionsRepository, 'list' | 'document'>;
  sources: Pick<SourcesRepository, 'feeding'>;
  jobs: Jobs<PreviewJobs>;
  updates: LiveUpdates;
  now: () => Date;
  newId: () => string;
}

/** Reads a document or refuses it with every place that is wrong. */
export function templateOrRefuse(document: unknown): Template {
  const read = readTemplate(document);
  if (read.ok) return read.template;
  const [first] = read.problems;
  const place = first ? placeInWords(document, first.path) || first.path : '';
  const where = place ? `${place}: ` : '';
  throw new Refusal(
    422,
    `This template cannot be used. ${where}${first?.message ?? ''}`,
    read.problems,
  );
}

/** What each stored document reads; found once, as long as it is not saved anew. */
const reads = new Map<string, string[]>();

function readsOf({ id, version, template }: StoredTemplate): string[] {
  const key = `${id} ${version}`;
  const known = reads.get(key);
  if (known) return known;
  const found = dataRead(templateSites(template as Template));
  if (reads.size > 2_000) reads.clear();
  reads.set(key, found);
  return found;
}

function summary(stored: StoredTemplate): TemplateSummary {
  const { id, version, updated_at, template } = stored;
  const { name, shop } = template as Template;
  return { id, name, shop, version, updated_at, reads: readsOf(stored) };
}

/** Templates: kept with a version, never overwritten by what was made from an older one. */
export class TemplatesService {
  private readonly previews: WriteLane = new LocalLane();

  constructor(private readonly given: Given) {}

  list(): TemplateSummary[] {
    const { templates, templateHealth } = this.given;
    return templates.list().map((stored) => {
      const health = templateHealth.get(stored.id);
      if (!health) return summary(stored);
      return { ...summary(stored), health };
    });
  }

  find(id: string): StoredTemplate {
    const stored = this.given.templates.find(id);
    if (!stored) throw new Refusal(404, 'There is no such template; perhaps it was deleted.');
    return stored;
  }

  async create(asked: CreateTemplate): Promise<StoredTemplate> {
    const { store, templates, newId, now } = this.given;
    const template = this.made(asked);
    const stored = await store.write(() =>
      templates.insert(newId(), template, now().toISOString()),
    );
    this.publish(stored.id);
    return stored;
  }

  private made(asked: CreateTemplate): Template {
    const { shops, sources, newId } = this.given;
    if ('template' in asked) return templateOrRefuse(asked.template);
    if ('copy_of' in asked)
      return { ...(this.find(asked.copy_of).template as Template), name: asked.name };
    const layout = LAYOUTS.find(({ id }) => id === asked.layout);
    if (!layout) throw new Refusal(400, `There is no layout “${asked.layout}”.`);
    const shop = shops.find(asked.shop);
    if (!shop) throw new Refusal(400, `There is no shop “${asked.shop}”.`);
    const names = (target: 'catalog' | 'feed' | 'coupons') =>
      sources.feeding(target, shop.id).map(({ formula_name }) => formula_name);
    const has = { catalogs: names('catalog'), feeds: names('feed'), coupons: names('coupons') };
    return fromLayout(layout, asked.name, { ...shop, ...has }, newId);
  }

  /** Saves what was made from a version; where another save came between, nothing changes. */
  async save(
    id: string,
    version: number,
    document: unknown,
  ): Promise<{ saved: StoredTemplate } | { conflict: Conflict }> {
    const { store, templates, now } = this.given;
    const template = templateOrRefuse(document);
    const saved = await store.write(() =>
      templates.save(id, version, template, now().toISOString()),
    );
    if (saved.ok) {
      this.publish(id);
      return { saved: saved.stored };
    }
    if (!saved.current) throw new Refusal(404, 'This template was deleted; nothing was saved.');
    const message = 'This template was changed elsewhere in the meantime. Nothing was overwritten.';
    return { conflict: { error: { message }, current: saved.current } };
  }

  /** Whether an occasion sends a template as it is published. */
  private sends({ id, published }: Pick<StoredDraft, 'id' | 'published'>, template: string) {
    const on = published === null ? null : this.given.occasions.document(id, published);
    return on !== null && sendsOf(on).some((step) => step.template === template);
  }

  async remove(id: string): Promise<void> {
    const { store, templates, now } = this.given;
    const { shop, name } = this.find(id).template as Template;
    const [sending] = this.given.occasions
      .list(shop)
      .filter(({ on_since, ...one }) => on_since !== null && this.sends(one, id));
    if (sending)
      throw new Refusal(
        409,
        `“${name}” is sent by “${sending.occasion.name}”, which is on. First switch that off, or choose another template there.`,
      );
    await store.write(() => templates.remove(id, now().toISOString()));
    this.publish(id);
  }

  async restore(id: string): Promise<StoredTemplate> {
    const { store, templates } = this.given;
    if (!(await store.write(() => templates.restore(id))))
      throw new Refusal(404, 'There is no such template.');
    this.publish(id);
    return this.find(id);
  }

  /**
   * The mail as a person gets it, else its first recipient. One is made at a time, so that a list of many leaves threads to
   * whoever opens one of them; for who has left meanwhile none is made.
   */
  preview(id: string, hasLeft: () => boolean, person?: number): Promise<Mail | null> {
    const { jobs, now } = this.given;
    const template = this.find(id).template as Template;
    return this.previews.turn(async () =>
      hasLeft()
        ? null
        : jobs.run('preview', {
            ...{ template, now: now().toISOString() },
            ...(person !== undefined && { person }),
          }),
    );
  }

  private publish(id: string): void {
    this.given.updates.publish({ type: 'template', id });
  }
}
