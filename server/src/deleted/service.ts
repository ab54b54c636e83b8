import { RESTORABLE_DAYS, type DeletedItem, type DeletedKind } from '@carafe/contract';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { DeletedRepository } from './repository';

/** Restores one thing of a kind, by what the list of deleted things calls it; gives its name. */
export type Restore = (id: string) => Promise<string>;

interface DeletedDependencies {
  store: Pick<Store, 'write'>;
  deleted: DeletedRepository;
  restore: Record<DeletedKind, Restore>;
  /** Is told of pictures that can no longer be restored. */
  forgetPicture: (id: string) => void;
  now: () => Date;
}

const DAY = 86_400_000;
const PERIOD = RESTORABLE_DAYS * DAY;

/** Everything that was deleted and can be restored. */
export class DeletedService {
  constructor(private readonly dependencies: DeletedDependencies) {}

  private since(): string {
    return new Date(this.dependencies.now().getTime() - PERIOD).toISOString();
  }

  list(): DeletedItem[] {
    return this.dependencies.deleted.since(this.since()).map((row) => ({
      ...row,
      until: new Date(Date.parse(row.deleted_at) + PERIOD).toISOString(),
    }));
  }

  async restore(kind: string, id: string): Promise<{ kind: DeletedKind; name: string }> {
    const found = this.list().find((item) => item.kind === kind && item.id === id);
    if (!found)
      throw new Refusal(
        404,
        `This cannot be restored: it was restored already, or deleted more than ${RESTORABLE_DAYS} days ago.`,
      );
    return { kind: found.kind, name: await this.dependencies.restore[found.kind](id) };
  }

  /** Forgets for good what was deleted too long ago. */
  async clean(): Promise<void> {
    const { store, deleted, forgetPicture } = this.dependencies;
    const forgotten = await store.write(() => deleted.forget(this.since()));
    for (const { kind, id } of forgotten) if (kind === 'picture') forgetPicture(id);
  }
}
