import type { TemplateHealth } from '@carafe/contract';
import { sendsOf } from '@carafe/core/occasion';
import type { Template } from '@carafe/core/template';
import type { Survey } from '@carafe/core/variant';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { LiveUpdates } from '../live/liveUpdates';
import type { OccasionsRepository } from '../occasions/repository';
import type { ShopsRepository } from '../shops/repository';
import type { OutboxRepository } from '../outbox/repository';
import {
  heldFor,
  type Digests,
  type TemplateHealthRepository,
} from '../templates/healthRepository';
import type { TemplatesRepository } from '../templates/repository';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { SurveyService } from './service';

interface Given {
  store: Pick<Store, 'write'>;
  updates: LiveUpdates;
  occasions: Pick<OccasionsRepository, 'list' | 'document'>;
  published: Pick<PublishedRepository, 'last' | 'document'>;
  templates: Pick<TemplatesRepository, 'list'>;
  templateHealth: Omit<TemplateHealthRepository, 'held'>;
  outbox: Pick<OutboxRepository, 'holdReady'>;
  shops: Pick<ShopsRepository, 'list'>;
  surveys: Pick<SurveyService, 'wholeOf'>;
  now: () => Date;
  log: Logger;
}

/** Changes that follow each other within so long are looked at together. */
const PAUSE_MS = 3_000;
/** After the start, others come first. */
const FIRST_MS = 15_000;

/** How many of those who got a mail before get another one now. */
export function changedPeople(before: Digests, after: Digests): number {
  let changed = 0;
  for (const [person, digest] of after) {
    const was = before.get(person);
    if (was !== undefined && was !== digest) changed++;
  }
  return changed;
}

/** So many templates of a shop are looked at, those that are sent before all others. */
const MOST_TEMPLATES = 60;

function digestsOf({ digests = [] }: Survey): Digests {
  const all = new Map<number, number>();
  for (let i = 0; i < digests.length; i += 2) all.set(digests[i] ?? 0, digests[i + 1] ?? 0);
  return all;
}

/**
 * After the data of a shop changed, fills its published templates for everybody again: tells for how many the mail is
 * another, and holds the mails of a template in which an error came up, those too that are filled already.
 */
export class TemplateWatch {
  private readonly waiting = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  private last: Promise<void> = Promise.resolve();

  constructor(private readonly given: Given) {}

  /** Begins to look whenever something changed; what is sent is looked at soon, to be compared with then. */
  begin(): void {
    setTimeout(() => {
      for (const { id } of this.given.shops.list())
        this.sent(id).forEach((one) => this.soonAt(one));
    }, FIRST_MS).unref();
    this.given.updates.listen(({ update }) => {
      if (update.type === 'template') this.soonAt(update.id);
      if (update.type !== 'shared') return;
      const { shop } = update;
      for (const id of shop === null ? this.given.shops.list().map((one) => one.id) : [shop])
        this.waiting.add(id);
      this.timer ??= setTimeout(() => this.lookAtAll(), PAUSE_MS).unref();
    });
  }

  private after(work: () => Promise<void>): void {
    this.last = this.last.then(work).catch((error: unknown) => this.given.log.error(error));
  }

  private lookAtAll(): void {
    this.timer = null;
    for (const shop of this.waiting) this.after(() => this.look(shop));
    this.waiting.clear();
  }

  /** Looks at what was published since: an error that was mended holds nothing any more. */
  private soonAt(id: string): void {
    const { published, templateHealth } = this.given;
    const isNew = () => published.last(id) > templateHealth.version(id);
    if (isNew()) this.after(async () => (isNew() ? this.lookAt(id) : undefined));
  }

  /** The templates that switched-on occasions of a shop send. */
  private sent(shop: string): string[] {
    const { occasions } = this.given;
    const on = occasions.list(shop).filter(({ on_since }) => on_since !== null);
    return [
      ...new Set(
        on.flatMap(({ id, published }) => {
          const live = published === null ? null : occasions.document(id, published);
          return live ? sendsOf(live).map(({ template }) => template) : [];
        }),
      ),
    ];
  }

  /** The published templates of a shop; those that are sent come first. */
  private watched(shop: string): string[] {
    const { templates, published } = this.given;
    const all = templates
      .list()
      .filter(({ id, template }) => (template as Template).shop === shop && published.last(id) > 0);
    const ids = all.map(({ id }) => id);
    return [...new Set([...this.sent(shop), ...ids])].slice(0, MOST_TEMPLATES);
  }

  /** Looks at what a shop published as it is now, and compares it with what it was. */
  async look(shop: string): Promise<void> {
    for (const id of this.watched(shop)) await this.lookAt(id);
  }

  private async lookAt(id: string): Promise<void> {
    const { published, surveys, templateHealth, outbox, store, updates, now } = this.given;
    const version = published.last(id);
    const template = published.document(id, version) as Template | null;
    if (!template) return;
    const { survey, findings } = await surveys.wholeOf(template, id, { of: 'reads' }, true);
    const errors = findings
      .filter(({ severity }) => severity === 'error')
      .map(({ message }) => message);
    const digests = digestsOf(survey);
    await store.write(() => {
      const before = templateHealth.get(id);
      const known = templateHealth.digests(id, version);
      const fresh = before ? errors.filter((one) => !before.errors.includes(one)) : [];
      const health: TemplateHealth = {
        ...{ at: now().toISOString(), people: survey.people, errors },
        changed: known ? changedPeople(known, digests) : 0,
        // What was held for an error is let go when there is none any more.
        held: errors.length === 0 ? null : (fresh[0] ?? before?.held ?? null),
      };
      templateHealth.put(id, health, version, digests);
      if (health.held !== null) outbox.holdReady(id, heldFor(health.held));
    });
    updates.publish({ type: 'template', id });
    updates.publish({ type: 'outbox' });
  }

  /** Lets a template’s mails go all the same; those that are held wait for approval in the outbox. */
  async letGo(id: string): Promise<void> {
    const { store, templateHealth, updates } = this.given;
    await store.write(() => {
      const health = templateHealth.get(id);
      if (!health?.held) throw new Refusal(409, 'The mails of this template are not held.');
      templateHealth.change(id, { ...health, held: null });
    });
    updates.publish({ type: 'template', id });
  }
}
