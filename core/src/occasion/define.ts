import type { z } from 'zod';
import type { Fields } from '../formula';
import type { ShopEvent, Shopper } from '../record';
import type { ShopRules } from './shopRules';

/** What a start or a mail is about: the order, the cart, the product, the post. */
export interface About {
  order?: string;
  cart?: string;
  sku?: string;
  feed?: string;
  post?: string;
}

/** What happened that sets the engine going, beside the time moving on. */
export type Happening =
  /** Something of the person: their cart, orders, consent. `event` where a shop told it. */
  | { kind: 'person'; event?: ShopEvent }
  /** A product that became cheaper, or is there again. */
  | {
      kind: 'product';
      change: 'cheaper' | 'back';
      sku: string;
      /** When that was, in milliseconds; the moment itself where it is left out. */
      since?: number;
    }
  /** A post that a feed brought. */
  | { kind: 'post'; feed: string; post: string }
  /** The time of an occasion that starts at a point in time, or at a repeating one, draws near. */
  | { kind: 'time'; occasion: string; name: string; wall: number }
  /** Somebody lets a person into an occasion. */
  | { kind: 'hand'; occasion: string; name: string; about?: About };

/** A person at an instant, as starts, guards and conditions see them. */
export interface Moment {
  /** Milliseconds. */
  at: number;
  shopper: Shopper;
  /** As sources and events have put the person together. */
  person: Fields;
  /** The person's time zone, else the shop's. */
  zone: string;
  rules: ShopRules;
  /** When the person looked at a product lately, in milliseconds, by SKU. */
  looked: ReadonlyMap<string, number>;
  happening: Happening | null;
  /** What became of a mail, by its key. */
  reacted: (key: string) => { opened: boolean; clicked: boolean };
  /** Whether the mail server said that there is no such address. */
  refused: boolean;
  /** Whether an email about this order or cart went to another address already, as that of a guest who gave two. */
  sentElsewhere(occasion: string, cause: string, step: string): boolean;
  /** Whether a formula holds for the person now, with what the occasion adds to the record. */
  holds(formula: string, beside: Fields): boolean;
  /** Whether the person is in a named segment now, and a mark of the condition that says so. */
  inSegment(name: string): SegmentAnswer;
}

/** `mark` is another number once the segment's condition is another one. */
export interface SegmentAnswer {
  is: boolean;
  mark: number;
}

/** Why somebody is to come into an occasion, and when. One cause starts it once. */
export interface Cause {
  /** Its name: the same for the same thing, in whatever occasion. */
  cause: string;
  /** When it starts the occasion, in milliseconds. */
  due: number;
  about: About;
}

/** A question of a start's form, told as part of a sentence. */
export type StartField =
  | { control: 'choice'; path: string; before: string; options: readonly Option[] }
  | { control: 'number'; path: string; before: string; after: string; most: number; when?: When }
  | {
      control: 'text';
      path: string;
      before: string;
      hint: string;
      /** A field whose values are offered, or fields whose dates are, by their names. */
      offers: { valuesOf: string } | { datesOf: string };
      when?: When;
    }
  | { control: 'time'; path: string; before: string }
  | { control: 'moment'; path: string; before: string }
  | { control: 'weekdays'; path: string; before: string; when?: When }
  | { control: 'products'; path: string; before: string; when?: When }
  | { control: 'segment'; path: string; before: string }
  | { control: 'feed'; path: string; before: string };
interface Option {
  value: string;
  label: string;
}
interface When {
  path: string;
  is: readonly string[];
}

/** All that anybody knows of one kind of start. To add one, write a file and list it in `starts/index`. */
export interface StartKind<S extends z.ZodType = z.ZodType> {
  kind: string;
  name: string;
  description: string;
  schema: S;
  /** A first one, at an instant in milliseconds. */
  make(now: number): z.infer<S>;
  /** What a form asks of it. */
  fields: readonly StartField[];
  /** The start as the beginning of a sentence: “When a cart has been quiet for 1 hour”. */
  say(start: z.infer<S>, rules: ShopRules): string;
  /** What starts it for a person as they are, or by what just happened. */
  causes(start: z.infer<S>, moment: Moment): readonly Cause[];
  /**
   * Whether a cause still stands. Asked before somebody comes in, and before each mail: a cart that was ordered
   * is no cart that was left. Left out, a cause stands for good.
   */
  stands?(start: z.infer<S>, moment: Moment, about: About): boolean;
  /** Whether a person receives its emails for one cause only, ever. */
  oncePerPerson?(start: z.infer<S>): boolean;
  /** Whether it is about a cart that was left: how soon people come back by themselves is shown beside. */
  ofCart?: true;
  /** What is said where it stands no longer. */
  gone?: string;
  /** Milliseconds between what it is about and the start, where that is fixed: the first stretch of the time line. */
  quiet?(start: z.infer<S>, rules: ShopRules): number;
}

/** Keeps the types of a start. */
export function defineStart<S extends z.ZodType>(kind: StartKind<S>): StartKind<S> {
  return kind;
}
