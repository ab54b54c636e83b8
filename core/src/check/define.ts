import type { BuildFinding } from '../build';
import type { Fields } from '../formula';
import type { Shape } from '../shape';
import type { FormulaSite } from '../site';
import type { Template } from '../template/schema';
import type { Coverage, Survey } from '../variant';
import { counted, figure } from '../words';

/**
 * A repair in one click: a value that is put somewhere, a piece of a formula or text that is replaced, a node that is taken
 * out, or a block that is added below all others.
 */
export type Repair = { label: string } & (
  | {
      put: {
        /** Null is the template itself. */ node: string | null;
        path: string;
        value: unknown;
      };
    }
  | { replace: { node: string; path: string; start: number; end: number; text: string } }
  | { take: string }
  | { add: 'foot' }
);

/** What a check says of a template. */
export interface CheckFinding {
  check: string;
  severity: 'error' | 'warning' | 'hint';
  /** The node’s id; empty for the envelope and the mail as a whole. */
  node: string;
  path: string;
  message: string;
  /** How many people it is about, and one of them; left out where it is about all or about none. */
  people?: number;
  person?: number;
  repair?: Repair;
}
export type Found = Omit<CheckFinding, 'check'>;

/** A picture of the library, as far as checks ask. */
export interface KnownPicture {
  id: string;
  width: number;
  height: number;
  /** Of its file. */
  bytes: number;
}

/** All that checks look at. What is not known is null, and asks for nothing. */
export interface CheckContext {
  template: Template;
  sites: readonly FormulaSite[];
  shape: Shape | null;
  built: readonly BuildFinding[];
  /** The template filled for its audience. */
  survey: Survey | null;
  coverage: Coverage | null;
  /** The products of the shop, by SKU, as far as mails show them. */
  products: ReadonlyMap<string, Fields>;
  /** Whether a catalog of the shop has a product of an SKU; null where that is not known. */
  hasProduct: ((sku: string) => boolean) | null;
  /** The codes of the shop, by policy; null where they are not known. */
  coupons: Fields | null;
  /** What it is sent as, as far as occasions say. */
  sentAs: 'marketing' | 'service' | null;
  /** Sources that are stale or failed, by what formulas call them, with what is wrong. */
  sources: readonly { name: string; root: string; problem: string }[];
  /** The library; null where it is not known. */
  pictures: readonly KnownPicture[] | null;
  now: Date;
  /** The shop’s time zone; UTC where none is known. */
  zone?: string | undefined;
}

/** One kind of thing that can be wrong. */
export interface Check {
  name: string;
  /** In the list of checks. */
  label: string;
  find(context: CheckContext): Found[];
}

export const defineCheck = (check: Check): Check => check;

/** “3 of 1,250 people”, “all 1,250 people”. */
export function ofPeople(people: number, all: number): string {
  if (people === all) return all === 1 ? 'the one person it is for' : `all ${figure(all)} people`;
  return `${figure(people)} of ${figure(all)} people`;
}
export const products = (n: number): string => counted(n, 'product');
