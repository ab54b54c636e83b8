import { ENDPOINTS, type LiveUpdate } from '@carafe/contract';
import { catalogNeeds, checkSites, dataRead, type CatalogNeed } from '@carafe/core/check';
import type { Fields } from '@carafe/core/formula';
import { productIndex, reviveRecord, type SharedData } from '@carafe/core/record';
import { EMPTY_LIBRARY, expand, type ShopLibrary } from '@carafe/core/library';
import type { Shape } from '@carafe/core/shape';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { messageOf, type ask as askServer } from '../../../app/ask';
import { Builder } from './builder';
import { Ahead, type Filling } from './filling';
import type { FromWorker, Shown } from './messages';
import { covers, joined } from './needs';
import { named, People } from './people';

/** Checking waits for a pause in typing: mails are filled first. */
const CHECK_AFTER_MS = 150;
/** The shape is asked for when the mail is there, or after so long. */
const SHAPE_AFTER_MS = 1500;
/** Picks that the mail does not show follow it, once nobody flips on. */
const PICKS_AFTER_MS = 300;
/** The mail that comes next is filled when this one is painted. */
const AHEAD_AFTER_MS = 40;

/** Whether whoever is shown stands before or behind whoever was. */
const wayFrom = (before: number, { near, person }: Shown): 1 | -1 =>
  near.indexOf(before) > near.indexOf(person) ? -1 : 1;

interface Outside {
  ask: typeof askServer;
  post: (message: FromWorker) => void;
  later: (work: () => void, milliseconds: number) => () => void;
}

/**
 * All data of the desk but the template itself: what a shop shares, people, the built program. It loads
 * what the template can show, builds after every edit, fills for whoever is shown, and checks when there
 * is time. The page only tells what is wanted, and shows what comes.
 */
export class DeskData {
  /** As it was told, and as it stands alone with what it uses of the shop's library. */
  private given: Template | null = null;
  private template: Template | null = null;
  private library: ShopLibrary = EMPTY_LIBRARY;
  private shop: string | null = null;
  private needs: CatalogNeed[] | null | undefined;
  private shared: SharedData | null = null;
  private lengths: Record<string, number> = {};
  private products = new Map<string, Fields>();
  private people: People | null = null;
  private shape: Shape | null = null;
  private shown: Shown | null = null;
  private turn = 0;
  private stopChecking: () => void = () => undefined;
  private stopFillingAhead: () => void = () => undefined;
  private stopPicks: () => void = () => undefined;
  private showsPicks = false;
  /** The instant that was chosen to be filled for; null is now. */
  private chosen: string | null = null;
  private readonly ahead = new Ahead();
  /** 1 down the list of recipients, -1 up. */
  private way: 1 | -1 = 1;
  /** Counts loads: what an earlier one brings late is passed over. */
  private load = 0;
  private readonly told = new Map<string, string>();
  private readonly builder: Builder;
  private shapeOf: string | null = null;

  constructor(private readonly outside: Outside) {
    this.builder = new Builder({
      ask: outside.ask,
      onBuilt: () => this.fill(),
      onFindings: (findings) => {
        this.tell({ type: 'built', findings });
        this.tell({ type: 'problem', message: null });
      },
    });
  }

  setTemplate(template: Template): void {
    // What is frozen is looked through once: its formula sites are kept.
    this.given = Object.freeze(template);
    const isOther = template.shop !== this.shop;
    if (isOther) this.openShop(template.shop);
    this.use(expand(template, this.library));
    // The first time, whoever is shown is asked for before anything is built.
    if (isOther) this.outside.later(() => void this.build(), 0);
    else void this.build();
  }

  /** Takes a template that stands alone. */
  private use(template: Template): void {
    this.template = Object.freeze(template);
    this.builder.template = template;
    // When the template begins to show picks, who came without is asked for anew: once, not with each letter.
    const { showsPicks } = this;
    this.showsPicks = dataRead(templateSites(template)).includes('picks');
    if (this.showsPicks && !showsPicks) this.people?.forgetUnpicked();
    void this.loadPeople();
    this.loadShared(catalogNeeds(templateSites(template)));
    this.checkSoon();
  }

  /** Shows a node that stands in an else, whoever the recipient is. */
  peekAt(node: string | null): void {
    this.builder.peek = node;
    void this.build();
  }

  show(shown: Shown | null): void {
    const { shown: before } = this;
    if (before && shown) this.way = wayFrom(before.person, shown);
    this.shown = shown;
    if (shown) this.fillAsOf(shown.isChosen ? shown.asOf : null);
    void this.loadPeople();
    this.fill();
    // Only on the way through the list: while somebody writes, the next letter comes first.
    if (shown)
      this.stopFillingAhead = this.outside.later(() => this.fillAhead(shown), AHEAD_AFTER_MS);
  }

  /** What is shared by then is another: codes end, and “today” is another day. What is shown stays until it has come. */
  private fillAsOf(chosen: string | null): void {
    if (chosen === this.chosen) return;
    this.chosen = chosen;
    this.reloadShared();
  }

  update(update: LiveUpdate): void {
    const ofShop = 'shop' in update && (update.shop === null || update.shop === this.shop);
    if (update.type === 'stale') this.reload();
    else if (update.type === 'shared' && ofShop) this.reload();
    else if (update.type === 'shape' && ofShop) void this.loadShape();
    else if (update.type === 'people' && ofShop) {
      const wanted = named(update.ids);
      this.people?.forget(wanted);
      void this.loadShape();
      // Who changed is asked for anew, also who is not shown yet: a cart is seen at once.
      void this.loadPeople(wanted).then(() => this.outside.post({ type: 'people', ids: wanted }));
    }
  }

  /** Everything may have changed. What is shown stays until what is new has come. */
  private reload(): void {
    this.people?.forget([]);
    this.reloadShared();
    void this.loadShape();
    this.outside.post({ type: 'people', ids: [] });
  }

  private reloadShared(): void {
    const { needs } = this;
    this.needs = undefined;
    if (needs !== undefined) this.loadShared(needs);
  }

  private openShop(shop: string): void {
    this.shop = shop;
    this.needs = undefined;
    this.shared = null;
    this.library = EMPTY_LIBRARY;
    this.people = new People(this.outside.ask, shop);
    // The mail goes before what is said about it, but where there is nobody to show it for.
    this.outside.later(() => this.wantShape(), SHAPE_AFTER_MS);
  }

  /** The shape of a shop is asked for once; news ask for it anew. */
  private wantShape(): void {
    if (this.shapeOf === this.shop) return;
    this.shapeOf = this.shop;
    void this.loadShape();
  }

  /** Tells what is not what was told before: the page is drawn anew for news only. */
  private tell(message: Extract<FromWorker, { type: 'built' | 'checked' | 'problem' }>): void {
    const text = JSON.stringify(message);
    if (this.told.get(message.type) === text) return;
    this.told.set(message.type, text);
    this.outside.post(message);
  }

  /** Tries something, and tells what went wrong. */
  private async attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      this.tell({ type: 'problem', message: messageOf(error) });
    }
  }

  private loadShape(): Promise<void> {
    const { shop } = this;
    if (shop === null) return Promise.resolve();
    return this.attempt(async () => {
      const shape = await this.outside.ask(ENDPOINTS.shape, { params: { shop } });
      if (shop !== this.shop) return;
      this.shape = shape;
      this.outside.post({ type: 'shape', shape });
      this.checkSoon();
    });
  }

  /** Loads what the shop shares where more of it is needed than is there. */
  private loadShared(needs: CatalogNeed[] | null): void {
    const { shop } = this;
    if (shop === null || (this.needs !== undefined && covers(this.needs, needs))) return;
    // What was needed once stays: undoing asks for nothing.
    const wanted = this.needs === undefined ? needs : joined(this.needs, needs);
    this.needs = wanted;
    const load = ++this.load;
    void this.attempt(async () => {
      const { shared, lengths, library } = await this.outside.ask(ENDPOINTS.sharedData, {
        params: { shop },
        body: { catalogs: wanted, ...(this.chosen !== null && { as_of: this.chosen }) },
      });
      if (load !== this.load) return;
      this.shared = reviveRecord(shared) as SharedData;
      this.lengths = lengths;
      this.setLibrary(library);
      this.index();
      this.outside.post({ type: 'shared', shared: shared as SharedData, library });
      await this.loadPeople();
      this.fill();
    });
  }

  /** Another library is put into the template anew. */
  private setLibrary(library: ShopLibrary): void {
    if (JSON.stringify(library) === JSON.stringify(this.library)) return;
    this.library = library;
    const template = this.given && expand(this.given, library);
    if (!template || template === this.template) return;
    this.use(template);
    void this.build();
  }

  /** Loads whoever is shown and who is near, and some others. */
  private loadPeople(others: readonly number[] = []): Promise<void> {
    const { people } = this;
    const ids = people?.wanted(this.shown, others) ?? [];
    if (!people || ids.length === 0) return Promise.resolve();
    return this.attempt(async () => {
      await people.load(ids, this.showsPicks ? 'all' : 'none');
      if (people !== this.people) return;
      this.index();
      if (this.shown && ids.includes(this.shown.person)) this.fill();
    });
  }

  private index(): void {
    if (this.shared) this.products = productIndex(this.shared, this.people?.products ?? []);
  }

  /** What is picked for whoever is looked at follows, for the list of fields and for what is written next. */
  private picksSoon(person: number): void {
    this.stopPicks();
    const { people } = this;
    const data = people?.get(person);
    if (!people || !data || people.hasPicks(data)) return;
    const load = async () => {
      if (!(await people.loadPicks(person)) || people !== this.people) return;
      this.index();
      if (this.shown?.person === person) this.fill();
    };
    this.stopPicks = this.outside.later(() => void this.attempt(load), PICKS_AFTER_MS);
  }

  private build(): Promise<void> {
    return this.attempt(() => this.builder.latest());
  }

  private checkSoon(): void {
    this.stopChecking();
    this.stopChecking = this.outside.later(() => {
      const { given: template, shape } = this;
      if (!template || shape?.kind !== 'record') return;
      const findings = checkSites(templateSites(template), shape);
      this.tell({ type: 'checked', findings });
    }, CHECK_AFTER_MS);
  }

  /** Fills the mail for whoever is shown, once all that it needs is there. */
  private fill(): void {
    this.stopFillingAhead();
    const { shown } = this;
    const filling = shown && this.fillingFor(shown.person, shown.asOf);
    if (!filling) return;
    this.outside.post({
      type: 'filled',
      filled: { ...this.ahead.take(filling), turn: ++this.turn },
    });
    this.picksSoon(shown.person);
    this.wantShape();
  }

  /** Who comes next, the way that the list was gone last, is filled while nobody waits. */
  private fillAhead({ near, person, asOf }: Shown): void {
    const next = near[near.indexOf(person) + this.way];
    const filling = next === undefined ? null : this.fillingFor(next, asOf);
    if (filling) this.ahead.fill(filling);
  }

  private fillingFor(person: number, asOf: string): Filling | null {
    const { shared, products, lengths } = this;
    const { main, peeked } = this.builder;
    const data = this.people?.get(person);
    if (!data || !shared || !main) return null;
    return { person, asOf, data, shared, products, lengths, main, peeked };
  }
}
