import type { InsideRow, ReplayAnswer, WalkLine } from '@carafe/contract';
import { parsedFormula } from '@carafe/core/formula';
import { formulasOf, addFigures, type Occasion } from '@carafe/core/occasion';
import type { Template } from '@carafe/core/template';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import { inParts, type Piece } from '../people/inParts';
import type { PeopleRepository } from '../people/repository';
import type { TemplatesRepository } from '../templates/repository';
import type { CountJobs } from './counts';
import type { HandList, HandListJobs } from './handLists';
import { sayLine } from './lines';
import type { PastMailJobs, PastMailTask } from './pastMail';
import type { ReplayJobs, ReplayTask, WalkTask } from './replays';
import type { OccasionsRepository } from './repository';
import type { ShopRulesRepository } from './segmentsRepository';
import type { Inside, StatesRepository } from './statesRepository';
import { unlessDamaged } from '../database/storedDocument';

interface Given {
  occasions: Pick<OccasionsRepository, 'find' | 'document'>;
  states: Pick<StatesRepository, 'insideOfPerson' | 'trail'>;
  shopRules: Pick<ShopRulesRepository, 'get'>;
  templates: Pick<TemplatesRepository, 'find'>;
  people: Pick<PeopleRepository, 'idOf' | 'some' | 'idsAfter' | 'count'>;
  jobs: Jobs<ReplayJobs & PastMailJobs & HandListJobs & CountJobs>;
  now: () => Date;
}

const TRAIL = 300;
const DAY = 86_400_000;
/** A thread replays so many people at a time: small parts, so that both are through at about the same time. */
const PART = 600;

/** What occasions did, would have done, and wait for: nothing is changed here. */
export class OccasionLooks {
  constructor(private readonly given: Given) {}

  private row(shop: string, { email, entered, due, step, cause, version }: Inside): InsideRow {
    const { people } = this.given;
    const id = people.idOf(shop, email);
    const name = id === null ? '' : (people.some(shop, [id])[0]?.name ?? '');
    return {
      ...{ email, name, step, cause, version },
      entered: entered === null ? null : new Date(entered).toISOString(),
      due: new Date(due).toISOString(),
    };
  }

  /** Who is inside an occasion, the next to be looked at first. */
  async inside(occasion: string, limit: number, offset: number): Promise<InsideRow[]> {
    const found = this.given.occasions.find(occasion);
    if (!found) throw new Refusal(404, 'There is no such occasion; perhaps it was deleted.');
    const rows = await this.given.jobs.run('insidePage', { occasion, limit, offset });
    return rows.map((one) => this.row(found.shop, one));
  }

  private sure<T>(answer: T | null, what = 'There is no such shop.'): T {
    if (answer === null) throw new Refusal(404, what);
    return answer;
  }

  private refuseUnread(occasion: Occasion): void {
    for (const formula of formulasOf(occasion)) {
      const parsed = formula.trim() === '' ? null : parsedFormula(formula);
      if (parsed && !parsed.ok)
        throw new Refusal(422, `A condition cannot be read: ${parsed.error.message}`);
    }
  }

  async replay({
    after,
    most,
    as_of,
    ...asked
  }: Omit<ReplayTask, 'now' | 'ids'> &
    Piece & { as_of?: string | undefined }): Promise<ReplayAnswer> {
    for (const { occasion } of asked.occasions) this.refuseUnread(occasion);
    const { jobs, people, now: clock } = this.given;
    const now = as_of === undefined ? clock().getTime() : Date.parse(as_of);
    const some = (ids: number[]) => jobs.run('replay', { ...asked, ids, now });
    const done = await inParts(people, asked.shop, { after, most }, some, PART);
    const figures = done.parts.map((part) => this.sure(part)).reduce(addFigures);
    const from = asked.mode === 'replay' ? now - asked.days * DAY : now;
    return {
      ...{ figures, people: done.people, next: done.next },
      from: new Date(from).toISOString(),
      as_of: new Date(now).toISOString(),
    };
  }

  async walk(task: Omit<WalkTask, 'now'>): Promise<WalkLine[]> {
    this.refuseUnread(task.occasion);
    const { jobs, now } = this.given;
    const lines = await jobs.run('walk', { ...task, now: now().getTime() });
    return this.sure(lines, 'This person no longer exists. Choose another.');
  }

  async pastMail(
    shop: string,
    {
      at,
      rehearsal,
      ...asked
    }: Omit<PastMailTask, 'shop' | 'at' | 'rehearsal'> & {
      at: string;
      rehearsal?: { days: number; seed: number; as_of: string } | undefined;
    },
  ) {
    const made = rehearsal && {
      ...{ days: rehearsal.days, seed: rehearsal.seed, now: Date.parse(rehearsal.as_of) },
    };
    const mail = await this.given.jobs.run('pastMail', {
      ...{ ...asked, shop, at: Date.parse(at), rehearsal: made ?? null },
    });
    return this.sure(mail, 'The template or the person no longer exists.');
  }

  /** What occasions did with somebody, and what waits for them. */
  why(shop: string, email: string) {
    const { states, occasions, templates } = this.given;
    const address = email.toLowerCase();
    const nameOf = (id: string) => occasions.find(id)?.name ?? 'An occasion that was deleted';
    const names = {
      template: (id: string) =>
        (unlessDamaged(() => templates.find(id))?.template as Template | undefined)?.name ??
        'a template that was deleted',
    };
    return {
      inside: states.insideOfPerson(shop, address).map((one) => ({
        ...this.row(shop, one),
        ...{ occasion: one.occasion, occasion_name: nameOf(one.occasion) },
      })),
      lines: states.trail(shop, address, TRAIL).map((effect) => ({
        ...sayLine(
          effect,
          unlessDamaged(() => occasions.document(effect.occasion, effect.version)),
          names,
        ),
        occasion_name: nameOf(effect.occasion),
      })),
    };
  }

  /** Carts that are left now, or orders that nobody paid, with what was sent last. */
  async listed(shop: string, list: string): Promise<HandList> {
    const { jobs, shopRules, now } = this.given;
    if (list !== 'carts' && list !== 'orders')
      throw new Refusal(404, 'The list must be “carts” or “orders”.');
    const rules = shopRules.get(shop);
    const ago = (milliseconds: number) => new Date(now().getTime() - milliseconds).toISOString();
    return jobs.run('handList', {
      ...{ shop, list, quiet: ago(rules.quiet_minutes * 60_000) },
      oldest: ago(rules.give_up_days * DAY),
    });
  }
}
