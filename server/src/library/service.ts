import type { AnswerOf, ENDPOINTS, StoredFormula } from '@carafe/contract';
import { parsedFormula } from '@carafe/core/formula';
import {
  byName,
  noteTitle,
  OWN,
  usesOf,
  type NamedFormula,
  type ProductNote,
} from '@carafe/core/library';
import { templateSites } from '@carafe/core/site';
import type { Store } from '../database/store';
import { takenBack, type DeletedRepository } from '../deleted/repository';
import { Refusal } from '../http/errors';
import { refuseStale, versionOf } from '../http/version';
import { askersOf, type AskerParts } from '../occasions/askers';
import type { LiveUpdates } from '../live/liveUpdates';
import { usersAmong, type User, type UserParts } from '../templates/users';
import type { LibraryKind, LibraryRepository } from './repository';

interface Given extends UserParts, AskerParts {
  store: Pick<Store, 'write'>;
  library: LibraryRepository;
  deleted: DeletedRepository;
  updates: LiveUpdates;
  now: () => Date;
  newId: () => string;
}

type KeptNote = AnswerOf<(typeof ENDPOINTS)['changeNote']>;

/** What shops keep for their templates. */
export class LibraryService {
  constructor(private readonly given: Given) {}

  /** The templates that name a formula, by themselves or by another formula. */
  private usersOf(shop: string, name: string): User[] {
    const all = byName(this.formulasOf(shop));
    return usersAmong(this.given, shop, (template) =>
      templateSites(template).some(
        ({ source, parsed }) =>
          source.includes(OWN) &&
          parsed.ok &&
          parsed.value.some((formula) => usesOf(formula.source, all).has(name)),
      ),
    );
  }

  private formulasOf(shop: string): NamedFormula[] {
    return this.given.library.list(shop, 'formula').map(({ document }) => document);
  }

  formulas(shop: string): StoredFormula[] {
    return this.given.library.list(shop, 'formula').map(({ id, document }) => ({
      ...{ id, version: versionOf(document), formula: document },
      used_by: this.usersOf(shop, document.name),
    }));
  }

  private stored(shop: string, id: string, formula: NamedFormula): StoredFormula {
    return { id, version: versionOf(formula), formula, used_by: this.usersOf(shop, formula.name) };
  }

  /** Refuses a formula that cannot be read, whose name is taken, or that comes round to itself. */
  private refuseUnsound(shop: string, formula: NamedFormula, id: string | null): void {
    const parsed = parsedFormula(formula.formula);
    if (!parsed.ok) throw new Refusal(422, `This formula cannot be read: ${parsed.error.message}`);
    const others = this.given.library.list(shop, 'formula').filter((one) => one.id !== id);
    if (others.some(({ document }) => document.name === formula.name))
      throw new Refusal(409, `There is a formula “${formula.name}” already. Choose another name.`);
    const all = byName([...others.map(({ document }) => document), formula]);
    if (usesOf(formula.formula, all).has(formula.name))
      throw new Refusal(
        422,
        `“${formula.name}” would refer to itself through the formulas it uses.`,
      );
  }

  async addFormula(shop: string, formula: NamedFormula): Promise<StoredFormula> {
    const id = this.given.newId();
    await this.written(shop, () => {
      this.refuseUnsound(shop, formula, null);
      this.given.library.insert('formula', { id, shop, document: formula }, this.at());
    });
    return this.stored(shop, id, formula);
  }

  async changeFormula(id: string, version: string, formula: NamedFormula): Promise<StoredFormula> {
    const { shop, document: before } = this.found(id, 'formula');
    await this.written(shop, () => {
      refuseStale(this.found(id, 'formula').document, version, 'This formula');
      this.refuseUnsound(shop, formula, id);
      if (formula.name !== before.name) this.refuseUsed(shop, before, 'renamed');
      this.given.library.update(id, formula, this.at());
    });
    return this.stored(shop, id, formula);
  }

  private refuseUsed(shop: string, { name, label }: NamedFormula, done: string): void {
    const [first] = this.usersOf(shop, name);
    const by = this.formulasOf(shop).find(
      (one) => one.name !== name && usesOf(one.formula, new Map()).has(name),
    );
    const all = byName(this.formulasOf(shop));
    const [asker] = askersOf(this.given, shop, (formula) => usesOf(formula, all).has(name));
    const where = first?.name ?? by?.label ?? asker;
    if (where !== undefined)
      throw new Refusal(
        409,
        `“${label}” is used in “${where}”, so it cannot be ${done}. Remove it there first.`,
      );
  }

  async removeFormula(id: string): Promise<void> {
    const { shop, document } = this.found(id, 'formula');
    const { library, deleted } = this.given;
    await this.written(shop, () => {
      this.refuseUsed(shop, document, 'deleted');
      deleted.keep('formula', { id, shop, name: document.label, document }, this.at());
      library.remove(id);
    });
  }

  /** Restores a formula, by the number of its deletion; gives what it is called. */
  async restoreFormula(number: string): Promise<string> {
    const { store, library, deleted, updates } = this.given;
    const { shop, name } = await store.write(() => {
      const kept = takenBack(deleted.take<NamedFormula>('formula', number));
      const shop = kept.shop ?? '';
      this.refuseUnsound(shop, kept.document, null);
      library.insert('formula', { id: kept.id, shop, document: kept.document }, this.at());
      return { shop, name: kept.name };
    });
    updates.publish({ type: 'shared', shop });
    return name;
  }

  async addNote(shop: string, note: ProductNote): Promise<KeptNote> {
    const id = this.given.newId();
    await this.written(shop, () =>
      this.given.library.insert('note', { id, shop, document: note }, this.at()),
    );
    return { id, version: versionOf(note) };
  }

  async changeNote(id: string, version: string, note: ProductNote): Promise<KeptNote> {
    const { shop } = this.found(id, 'note');
    await this.written(shop, () => {
      refuseStale(this.found(id, 'note').document, version, 'This note');
      this.given.library.update(id, note, this.at());
    });
    return { id, version: versionOf(note) };
  }

  async removeNote(id: string): Promise<void> {
    const { shop, document } = this.found(id, 'note');
    const { library, deleted } = this.given;
    await this.written(shop, () => {
      deleted.keep('note', { id, shop, name: noteTitle(document), document }, this.at());
      library.remove(id);
    });
  }

  /** Restores a note, by the number of its deletion; gives what it is called. */
  async restoreNote(number: string): Promise<string> {
    const { store, library, deleted, updates } = this.given;
    const { shop, name } = await store.write(() => {
      const kept = takenBack(deleted.take<ProductNote>('note', number));
      const shop = kept.shop ?? '';
      library.insert('note', { id: kept.id, shop, document: kept.document }, this.at());
      return { shop, name: kept.name };
    });
    updates.publish({ type: 'shared', shop });
    return name;
  }

  private found<K extends LibraryKind>(id: string, kind: K) {
    const found = this.given.library.find(id, kind);
    if (!found) throw new Refusal(404, `There is no such ${kind}; perhaps it was deleted.`);
    return found;
  }

  private at(): string {
    return this.given.now().toISOString();
  }

  /** Writes, and tells the templates of the shop that what they share has changed. */
  private async written(shop: string, work: () => void): Promise<void> {
    await this.given.store.write(work);
    this.given.updates.publish({ type: 'shared', shop });
  }
}
