import type { Happening } from '@carafe/core/occasion';
import type { ShopEvent } from '@carafe/core/record';
import type { ReadyTask } from '../recommend/ready';

export type ProductHappening = Omit<Extract<Happening, { kind: 'product' }>, 'kind'>;

/** What the engine is to look at. */
export type AdvanceTask = {
  /** Milliseconds. */
  now: number;
  /** What ids of mails begin with; each is told apart by a number. */
  mailIds: string;
  /** What is asked of the rules of each shop. */
  picks: Record<string, ReadyTask>;
  /** More people are let in right after: a crowd is counted when all were. */
  moreFollow?: boolean;
} & (
  | { do: 'due'; late: boolean }
  /** Nobody: crowds are counted alone. */
  | { do: 'count' }
  | { do: 'people'; shop: string; ids: number[]; events: ShopEvent[] }
  | {
      do: 'everyone';
      shop: string;
      happening: Happening | null;
      /** Only so many, behind somebody: whatever happens meanwhile has its turn in between. */
      part?: { after: number; most: number };
    }
  | { do: 'told'; shop: string; told: { id: number; happenings: Happening[] }[] }
  | { do: 'products'; shop: string; changes: ProductHappening[] }
);

export interface AdvanceAnswer {
  people: number;
  mails: number;
  entered: number;
  /** How many people were set aside. */
  aside?: number;
  /** Of a part of everybody: who was the last; null where there is nobody behind. */
  last?: number | null;
}
