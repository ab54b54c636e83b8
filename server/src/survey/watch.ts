import type { TemplateHealth } from '@carafe/contract';
import { sendsOf } from '@carafe/core/occasion';
import { CHECKS, type CheckFinding } from '@carafe/core/checks';
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
  occasions: Pick<OccasionsRepository, 'on' | 'live'>;
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
/** What is published and not sent by itself is looked at once nothing changed for so long. */
const QUIET_MS = 60_000;

/** How many of those who got a mail before get another one now. */
export function changedPeople(before: Digests, after: Digests): number {
  let changed = 0;
  for (const [person, digest] of after) {
    const was = before.get(person);
    if (was !== undefined && was !== digest) changed++;
  }
  return changed;
}

/** What tells an error apart from another one: not its sentence, which another version of Carafe may word anew. */
const placeOf = ({ check, node, path }: CheckFinding) => `${check} ${node} ${path}`;

const CHECK_NAMES = CHECKS.map(({ name }) => name);

/** The first error that came up since the look before; none of a check that there was not then. */
function newError(before: TemplateHealth, errors: CheckFinding[]): CheckFinding | null {
  const { places, checks } = before;
  // An earlier Carafe kept neither: what is wrong now is what the next look is compared with.
  if (!places || !checks) return null;
  // Where one error stood, a second one is new.
  const known = [...places];
  const wasThere = (error: CheckFinding) => {
    const found = known.indexOf(placeOf(error));
    if (found >= 0) known.splice(found, 1);
    return found >= 0;
  };
  const compared = errors.filter(({ check }) => checks.includes(check));
  return compared.find((error) => !wasThere(error)) ?? null;
}

/** The error for which its mails are held already; none when it is gone, which lets them go. */
function stillHeld(before: TemplateHealth | null, errors: CheckFinding[]): CheckFinding | null {
  const { held = null, heldPlace } = before ?? {};
  if (held === null) return null;
  const isIt = (error: CheckFinding) =>
    heldPlace ? placeOf(error) === heldPlace : error.message === held;
  return errors.find(isIt) ?? null;
}

/** So many templates of a shop that are not sent are looked at. */
const MOST_TEMPLATES = 60;

/** What stands for everybody’s mail now, and as of the time before. */
function digestsOf({ digests = [] }: Survey): { now: Digests; then: Digests } {
  const [now, then] = [new Map<number, number>(), new Map<number, number>()];
  for (let i = 0; i < digests.length; i += 3) {
    const person = digests[i] ?? 0;
    now.set(person, digests[i + 1] ?? 0);
    then.set(person, digests[i + 2] ?? 0);
  }
  return { now, then };
}

/**
 * After the data of a shop changed, fills its published templates for everybody again: tells for how many the mail is
 * another, and holds the mails of a template in which an error came up, those too that are filled already.
 */
export class TemplateWatch {
  /** Shops whose data changed just now. */
  private readonly waiting = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  /** Shops whose templates that are not sent are to be looked at; whether their data changed. */
  private readonly others = new Map<string, boolean>();
  private quiet: NodeJS.Timeout | undefined;
  private last: Promise<void> = Promise.resolve();
  /** What nobody waits for does not stand before what is sent. */
  private lastAside: Promise<void> = Promise.resolve();

  constructor(private readonly given: Given) {}

  /** Begins to look whenever something changed. What was never looked at is, so that it can be compared with. */
  begin(): void {
    this.given.updates.listen(({ update }) => {
      if (update.type === 'template') this.soonAt(update.id);
      if (update.type !== 'shared') return;
      const { shop } = update;
      for (const id of shop === null ? this.given.shops.list().map((one) => one.id) : [shop])
        this.waiting.add(id);
      this.timer ??= setTimeout(() => this.lookAtSent(), PAUSE_MS).unref();
    });
    for (const { id } of this.given.shops.list()) this.others.set(id, false);
    this.lookAtOthersLater();
  }

  private logged(done: Promise<void>): Promise<void> {
    return done.catch((error: unknown) => this.given.log.error(error));
  }

  private after(work: () => Promise<void>): void {
    this.last = this.logged(this.last.then(work));
  }

  private afterAside(work: () => Promise<void>): void {
    this.lastAside = this.logged(this.lastAside.then(work));
  }

  private lookAtSent(): void {
    this.timer = null;
    for (const shop of this.waiting) {
      this.others.set(shop, true);
      this.after(() => this.look(shop));
    }
    this.waiting.clear();
    this.lookAtOthersLater();
  }

  private lookAtOthersLater(): void {
    clearTimeout(this.quiet);
    this.quiet = setTimeout(() => {
      for (const [shop, changed] of this.others)
        this.afterAside(() => this.lookAtOthers(shop, changed));
      this.others.clear();
    }, QUIET_MS).unref();
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
    return [
      ...new Set(
        occasions.on(shop).flatMap((draft) => {
          const live = occasions.live(draft);
          return live ? sendsOf(live).map(({ template }) => template) : [];
        }),
      ),
    ];
  }

  /** Looks at what the occasions of a shop send as it is now, and compares it with what it was. */
  async look(shop: string): Promise<void> {
    for (const id of this.sent(shop)) await this.lookAt(id);
  }

  /** Looks at what else a shop published; where no data changed, only at what was never looked at. */
  async lookAtOthers(shop: string, changed: boolean): Promise<void> {
    const { templates, published, templateHealth } = this.given;
    const isNew = (id: string) => published.last(id) > templateHealth.version(id);
    const sent = new Set(this.sent(shop));
    const others = templates
      .list()
      .filter(({ id, template }) => (template as Template).shop === shop && !sent.has(id))
      .map(({ id }) => id)
      .filter((id) => isNew(id) || (changed && published.last(id) > 0))
      .slice(0, MOST_TEMPLATES);
    for (const id of [...sent].filter(isNew)) this.soonAt(id);
    for (const id of others) await this.lookAt(id, true);
  }

  /** `aside`: nothing of it is sent by itself, so that nothing waits for it. */
  private async lookAt(id: string, aside = false): Promise<void> {
    const { published, surveys, templateHealth, outbox, store, updates, now } = this.given;
    const version = published.last(id);
    const template = published.document(id, version) as Template | null;
    if (!template) return;
    // Compared is what it is as of the last look: a date that goes on is no change of the data.
    const how = { digests: templateHealth.get(id)?.at ?? true, aside };
    const { survey, findings } = await surveys.wholeOf(template, id, { of: 'reads' }, how);
    const errors = findings.filter(({ severity }) => severity === 'error');
    const digests = digestsOf(survey);
    await store.write(() => {
      const before = templateHealth.get(id);
      const known = templateHealth.digests(id, version);
      // What somebody published in spite of an error goes: only what came up with the data holds mails.
      const isSame = before !== null && templateHealth.version(id) === version;
      const held = (isSame ? newError(before, errors) : null) ?? stillHeld(before, errors);
      const health: TemplateHealth = {
        ...{ at: now().toISOString(), people: survey.people },
        changed: known ? changedPeople(known, digests.then) : 0,
        errors: errors.map(({ message }) => message),
        places: errors.map(placeOf),
        held: held?.message ?? null,
        heldPlace: held && placeOf(held),
        checks: CHECK_NAMES,
      };
      templateHealth.put(id, health, version, digests.now);
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
      if (!health?.held) throw new Refusal(409, 'The emails of this template are not held.');
      templateHealth.change(id, { ...health, held: null });
    });
    updates.publish({ type: 'template', id });
  }
}
