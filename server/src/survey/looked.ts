import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { LiveUpdates } from '../live/liveUpdates';
import type { TemplatesRepository } from '../templates/repository';
import type { LookedRepository } from './lookedRepository';

interface Given {
  store: Pick<Store, 'write'>;
  looked: LookedRepository;
  templates: Pick<TemplatesRepository, 'find'>;
  updates: LiveUpdates;
  now: () => Date;
}

/** Which variants of a template were looked at, by whoever works on it. */
export class LookedVariants {
  constructor(private readonly given: Given) {}

  private sure(id: string): void {
    if (!this.given.templates.find(id))
      throw new Refusal(404, 'There is no such template; perhaps it was deleted.');
  }

  list(id: string): { marks: Record<string, string> } {
    this.sure(id);
    return { marks: this.given.looked.of(id) };
  }

  /** Keeps a mark of the mail that was seen; without one, the variant counts as not looked at. */
  async put(id: string, variant: string, mark: string | null) {
    const { store, looked, updates, now } = this.given;
    const marks = await store.write(() => {
      this.sure(id);
      if (mark === null) looked.drop(id, variant);
      else looked.keep(id, variant, mark, now().toISOString());
      return looked.of(id);
    });
    updates.publish({ type: 'looked', template: id });
    return { marks };
  }
}
