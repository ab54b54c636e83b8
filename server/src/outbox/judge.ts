import type { Fields } from '@carafe/core/formula';
import {
  allSteps,
  besideLater,
  formulasOf,
  guardsFor,
  mailKey,
  restDaysOf,
  sayFormula,
  sendsOf,
  shopperAbout,
  startKind,
  type About,
  type AskedValue,
  type Moment,
  type Occasion,
} from '@carafe/core/occasion';
import { reviveRecord, type PersonData } from '@carafe/core/record';
import { HOLD_REASONS, maySend, STOP_REASONS, type SendAnswer } from '@carafe/core/sending';
import type { OccasionsRepository } from '../occasions/repository';
import { asKnown, shopMoments, type MomentParts, type ShopMoments } from '../occasions/shopMoments';
import type { StatesRepository } from '../occasions/statesRepository';
import { picksOfMany } from '../recommend/picks';
import { withPast, type PastParts } from '../people/withPast';
import type { ReadyTask } from '../recommend/ready';
import type { LedgerRepository } from './ledgerRepository';
import { type OutboxRepository } from './repository';
import { aboutOf, approvedFor, type OutboxRow } from './row';

/** What the clock was moved over, in milliseconds: what was due then goes as of its own time. */
export interface MovedOver {
  from: number;
  to: number;
}

export interface JudgeTask {
  /** Milliseconds. */
  now: number;
  moved: MovedOver | null;
  /** By shop: what picks count until. */
  picks: Record<string, ReadyTask>;
}

export type JudgeParts = MomentParts &
  Parameters<typeof picksOfMany>[0] &
  PastParts & {
    occasions: Pick<OccasionsRepository, 'find' | 'document'>;
    states: Pick<StatesRepository, 'trailOfCause'>;
    ledger: Pick<LedgerRepository, 'entries' | 'recent'>;
    outbox: Pick<OutboxRepository, 'findKey' | 'refusedAddress'>;
  };

/** Whom an email goes to. */
export interface Recipient {
  id: number;
  data: PersonData;
}

/** An email of the outbox with all that is known about it now. */
export interface JudgedRow {
  row: OutboxRow;
  at: number;
  occasion: Occasion | null;
  about: About;
  /** The person with the order or cart that it is about. */
  data: PersonData;
  /** What the occasion adds to the record. */
  beside: Fields;
  picks: () => PersonData['picks'];
}

/** Which email is asked about: before it is filled, it has no subject yet. */
interface Asked {
  to: string | null;
  subject: string | null;
}

/** When an email goes: now, or at its own time where the clock was moved over that. */
export const timeOf = (
  { next_at }: Pick<OutboxRow, 'next_at'>,
  { now, moved }: Pick<JudgeTask, 'now' | 'moved'>,
): number => (moved && next_at > moved.from && next_at <= moved.to ? next_at : now);

function once<T>(work: () => T): () => T {
  let done: { value: T } | null = null;
  return () => (done ??= { value: work() }).value;
}

const said = (parts: readonly AskedValue[]): string =>
  parts.map(({ source, value }) => (source ? `${source}: ${value}` : value)).join(', ') ||
  'nothing';

/** Whether the occasion of an email is on, and has been since the email was created; or somebody lets it go all the same. */
export function isRowOn(
  occasion: { on_since: string | null; off_at: string | null } | null,
  { made_at, approved }: Pick<OutboxRow, 'made_at' | 'approved'>,
): boolean {
  if (approvedFor({ approved }).has('switched_off')) return true;
  if (!occasion?.on_since) return false;
  return occasion.off_at === null || made_at >= occasion.off_at;
}

/** Asks the one rule of sending about emails of the outbox, with what the database knows now. */
export class Judge {
  private readonly shops = new Map<string, ShopMoments | null>();
  private readonly documents = new Map<string, Occasion | null>();

  constructor(
    private readonly parts: JudgeParts,
    private readonly task: JudgeTask,
  ) {}

  occasionOf({ occasion, version }: OutboxRow): Occasion | null {
    const key = `${occasion} ${version}`;
    let known = this.documents.get(key);
    if (known === undefined) {
      known = this.parts.occasions.document(occasion, version);
      this.documents.set(key, known);
    }
    return known;
  }

  /** What conditions of an occasion are asked with: catalogs are read only where it names one. */
  private momentsOf(row: OutboxRow, occasion: Occasion): ShopMoments | null {
    const key = `${row.shop} ${row.occasion} ${row.version}`;
    let shop = this.shops.get(key);
    if (shop === undefined) {
      const now = new Date(this.task.now);
      shop = shopMoments(this.parts, row.shop, now, { formulas: formulasOf(occasion) });
      this.shops.set(key, shop);
    }
    return shop;
  }

  /** Whether the person opened another email of this way, or followed one of its links. */
  private reactedTo(
    { shop, email, cause, occasion: id, step }: OutboxRow,
    occasion: Occasion | null,
  ) {
    const others = occasion ? sendsOf(occasion).filter((one) => one.id !== step) : [];
    const rows = others.map((one) =>
      this.parts.outbox.findKey(shop, email, mailKey(id, cause, one.id)),
    );
    return {
      opened: rows.some((row) => Boolean(row?.opened_at)),
      clicked: rows.some((row) => Boolean(row?.clicked_at)),
    };
  }

  /** Reads all that is known about an email. */
  read(row: OutboxRow, { id, data }: Recipient): JudgedRow {
    const { parts, task } = this;
    const about = aboutOf(row);
    const occasion = this.occasionOf(row);
    const picksTask = task.picks[row.shop] ?? asKnown(row.shop, task.now);
    return {
      ...{ row, about, occasion, at: timeOf(row, task) },
      data: { ...data, shopper: shopperAbout(data.shopper, about) },
      beside: besideLater(
        reviveRecord(JSON.parse(row.beside)) as Fields,
        { about, made: Date.parse(row.made_at), shopper: data.shopper },
        () => this.reactedTo(row, occasion),
      ),
      picks: once(() => picksOfMany(parts, { ...picksTask, ids: [id] })[id]),
    };
  }

  /** Whether an email may go; `judged` is null for somebody who was deleted. */
  ask(row: OutboxRow, judged: JudgedRow | null, { to, subject }: Asked): SendAnswer {
    const { parts } = this;
    const occasion = judged?.occasion ?? this.occasionOf(row);
    const at = timeOf(row, this.task);
    const toOwner = row.recipient === 'owner';
    const shop = judged && occasion ? this.momentsOf(row, occasion) : null;
    const moment = shop && judged ? this.momentAt(shop, judged, at) : null;
    const address = to ?? row.email;
    const consent = judged && (judged.data.person as { consent?: unknown }).consent === true;
    return maySend({
      at,
      email: {
        ...{ key: mailKey(row.occasion, row.cause, row.step), occasion: row.occasion, subject },
        ...{ cause: row.cause, marketing: row.mail === 'marketing', toOwner },
        priority: row.priority,
      },
      isOn: occasion !== null && isRowOn(parts.occasions.find(row.occasion), row),
      // Whether its step was on was asked when it was created: it goes by the version of then.
      step: { mode: 'on', template: row.template },
      person:
        moment === null
          ? null
          : {
              consent: consent === true,
              refused: parts.outbox.refusedAddress(address.toLowerCase()) !== null,
            },
      causeStands: () => {
        if (!occasion || !moment || !judged) return true;
        const { stands } = startKind(occasion.start.kind);
        return stands?.(occasion.start, moment, judged.about) ?? true;
      },
      failedGuard: () => {
        if (!occasion || !moment || !judged) return null;
        const guards = guardsFor(occasion.steps, row.step);
        return guards.find(({ when }) => !moment.holds(when, judged.beside))?.id ?? null;
      },
      ledger: () => parts.ledger.entries(row.shop, row.email),
      limits: parts.shopRules.get(row.shop),
      overLimit: occasion?.over_limit ?? 'postpone',
      restDays: occasion ? restDaysOf(occasion) : 0,
      // Asked when it was created: the one that was created first goes.
      sentElsewhere: () => false,
      recent: () => parts.ledger.recent(address, at, row.id),
      approved: approvedFor(row),
    });
  }

  /** An answer in words; for a guard with its values when the email was created, and now. */
  say(
    answer: Exclude<SendAnswer, { kind: 'send' }>,
    row: OutboxRow,
    judged: JudgedRow | null,
  ): string {
    if (answer.kind === 'hold') return `${HOLD_REASONS[answer.why]}. Approve it to send it anyway.`;
    if (answer.kind === 'postpone')
      return answer.why === 'priority'
        ? 'Postponed: an email with a higher priority goes to this person first.'
        : `Postponed: ${lower(STOP_REASONS[answer.why])}.`;
    if (answer.why === 'guard' && judged?.occasion)
      return this.sayGuard(row, judged, judged.occasion, answer.guard ?? '');
    const gone = answer.why === 'gone' && judged?.occasion;
    return gone
      ? (startKind(gone.start.kind).gone ?? `${STOP_REASONS.gone}.`)
      : `${STOP_REASONS[answer.why]}.`;
  }

  /** The person with what conditions ask besides: picks, and their past. */
  private asked({ asksPicks, asksPast }: ShopMoments, { row, data, picks }: JudgedRow): PersonData {
    const picked = asksPicks ? picks() : undefined;
    return withPast(this.parts, row.shop, asksPast, picked ? { ...data, picks: picked } : data);
  }

  private momentAt(shop: ShopMoments, judged: JudgedRow, at: number): Moment {
    return shop.moments.moment({ data: this.asked(shop, judged), at });
  }

  private sayGuard(row: OutboxRow, judged: JudgedRow, occasion: Occasion, id: string): string {
    const guard = allSteps(occasion.steps).find((step) => step.id === id);
    if (guard?.kind !== 'guard') return `${STOP_REASONS.guard}.`;
    const told = this.parts.states.trailOfCause(row.shop, row.email, row.occasion, row.cause);
    const then = told.findLast((one) => one.kind === 'asked' && one.step === id);
    const was = then?.kind === 'asked' ? said(then.values ?? []) : null;
    const shop = this.momentsOf(row, occasion);
    const now = shop?.moments.explain(
      { data: this.asked(shop, judged), at: judged.at },
      guard.when,
      judged.beside,
    );
    const values = [
      ...(was === null ? [] : [`When the email was created: ${was}.`]),
      ...(now ? [`Now: ${said(now.parts)}.`] : []),
    ];
    return [`“Only if ${sayFormula(guard.when)}” no longer holds.`, ...values].join(' ');
  }
}

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);
