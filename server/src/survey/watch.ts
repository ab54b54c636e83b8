import { sendsOf } from '@carafe/core/occasion';
import type { Template } from '@carafe/core/template';
import type { Survey } from '@carafe/core/variant';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { LiveUpdates } from '../live/liveUpdates';
import type { OccasionsRepository } from '../occasions/repository';
import type { ShopsRepository } from '../shops/repository';
import type { StoredHealth, TemplateHealthRepository } from '../templates/healthRepository';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { SurveyService } from './service';

interface Given {
  store: Pick<Store, 'write'>;
  updates: LiveUpdates;
  occasions: Pick<OccasionsRepository, 'list' | 'document'>;
  published: Pick<PublishedRepository, 'last' | 'document'>;
  templateHealth: TemplateHealthRepository;
  shops: Pick<ShopsRepository, 'list'>;
  surveys: Pick<SurveyService, 'wholeOf'>;
  now: () => Date;
  log: Logger;
}

/** Changes that follow each other within so long are looked at together. */
const PAUSE_MS = 3_000;

/** How many people stand in another group than before, at the least. */
export function movedPeople(
  before: Readonly<Record<string, number>>,
  after: Readonly<Record<string, number>>,
): number {
  return Object.entries(after).reduce(
    (sum, [key, people]) => sum + Math.max(0, people - (before[key] ?? 0)),
    0,
  );
}

const countsOf = ({ variants }: Survey): Record<string, number> =>
  Object.fromEntries(variants.map(({ key, people }) => [key, people]));

/**
 * After the data of a shop changed, fills what its switched-on occasions send for everybody again: tells for how many it
 * is built otherwise, and holds the mails of a template in which an error came up.
 */
export class TemplateWatch {
  private readonly waiting = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  private last: Promise<void> = Promise.resolve();

  constructor(private readonly given: Given) {}

  /** Begins to look whenever something changed. */
  begin(): void {
    this.given.updates.listen(({ update }) => {
      if (update.type !== 'shared') return;
      const { shop } = update;
      for (const id of shop === null ? this.given.shops.list().map((one) => one.id) : [shop])
        this.waiting.add(id);
      this.timer ??= setTimeout(() => this.lookAtAll(), PAUSE_MS).unref();
    });
  }

  private lookAtAll(): void {
    this.timer = null;
    const shops = [...this.waiting];
    this.waiting.clear();
    this.last = shops
      .reduce((before, shop) => before.then(() => this.look(shop)), this.last)
      .catch((error: unknown) => this.given.log.error(error));
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

  /** Looks at what is sent in a shop now, and compares it with what it was. */
  async look(shop: string): Promise<void> {
    const { published, surveys, templateHealth, store, updates, now } = this.given;
    for (const id of this.sent(shop)) {
      const template = published.document(id, published.last(id)) as Template | null;
      if (!template) continue;
      const { survey, findings } = await surveys.wholeOf(template, id, { of: 'reads' });
      const errors = findings
        .filter(({ severity }) => severity === 'error')
        .map(({ message }) => message);
      const variants = countsOf(survey);
      await store.write(() => {
        const before = templateHealth.get(id);
        const fresh = before ? errors.filter((one) => !before.errors.includes(one)) : [];
        const health: StoredHealth = {
          ...{ at: now().toISOString(), people: survey.people, errors, variants },
          moved: before ? movedPeople(before.variants, variants) : 0,
          // What was held for an error is let go when there is none any more.
          held: errors.length === 0 ? null : (fresh[0] ?? before?.held ?? null),
        };
        templateHealth.put(id, health);
      });
      updates.publish({ type: 'template', id });
    }
  }

  /** Lets a template’s mails go all the same; those that are held wait for approval in the outbox. */
  async letGo(id: string): Promise<void> {
    const { store, templateHealth, updates } = this.given;
    await store.write(() => {
      const health = templateHealth.get(id);
      if (!health?.held) throw new Refusal(409, 'The mails of this template are not held.');
      templateHealth.put(id, { ...health, held: null });
    });
    updates.publish({ type: 'template', id });
  }
}
