import type { ImportCounts } from '@carafe/contract';
import type { FieldProfile, Shape } from '@carafe/core/shape';
import type { Store } from '../db';
import { applyImport, undoImport } from '../imports/apply';
import { checkFile } from '../imports/check';
import type { ApplyTask, CheckTask, Progress, UndoTask } from '../imports/task';
import { profileRows, selectRows, type RowQuery } from '../rows';
import { shapeOfShop } from '../shape';

/** What is done beside the server, each with what it is told and what it gives. */
export interface Work {
  check: { task: CheckTask; result: ImportCounts };
  apply: { task: ApplyTask; result: null };
  undo: { task: UndoTask; result: null };
  select: { task: RowQuery; result: number[] };
  profile: { task: { source: string }; result: FieldProfile[] };
  shape: { task: { shop: string; now: string }; result: Shape };
}
export type WorkName = keyof Work;

/** Does a piece of work over a store of its own. */
export async function doWork<K extends WorkName>(
  store: Store,
  name: K,
  task: Work[K]['task'],
  progress: Progress,
): Promise<Work[K]['result']> {
  const all: { [N in WorkName]: (task: Work[N]['task']) => unknown } = {
    check: (given) => checkFile(store.db, given, progress),
    apply: (given) => {
      applyImport(store, given);
      return null;
    },
    undo: (given) => {
      undoImport(store, given);
      return null;
    },
    select: (given) => selectRows(store, given),
    profile: ({ source }) => profileRows(store, source),
    shape: ({ shop, now }) => shapeOfShop(store, shop, new Date(now)),
  };
  return (await all[name](task)) as Work[K]['result'];
}

export interface RunOptions {
  progress?: (rows: number) => void;
  signal?: AbortSignal;
}

/** Does work somewhere, so that the server stays quick. */
export interface Jobs {
  run: <K extends WorkName>(
    name: K,
    task: Work[K]['task'],
    options?: RunOptions,
  ) => Promise<Work[K]['result']>;
  close: () => Promise<void>;
}

/** Work that somebody ended. */
export class Stopped extends Error {
  override name = 'Stopped';
}
