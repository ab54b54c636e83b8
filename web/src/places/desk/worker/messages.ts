import type { BuildFinding } from '@carafe/core/build';
import type { SiteFinding } from '@carafe/core/check';
import type { ShopLibrary } from '@carafe/core/library';
import type { Fields } from '@carafe/core/formula';
import type { SharedData } from '@carafe/core/record';
import type { Cut, Mail, Trail } from '@carafe/core/render';
import type { Shape } from '@carafe/core/shape';
import type { Template } from '@carafe/core/template';
import type { LiveUpdate } from '@carafe/contract';

/** Whom the mail is shown for. */
export interface Shown {
  person: number;
  /** Others whose data will soon be wanted. */
  near: number[];
  /** ISO 8601. */
  asOf: string;
  /** Whether that was chosen; else it is now. */
  isChosen?: boolean;
}

/** What the page tells the worker, which owns records, shared data and program. */
export type ToWorker =
  | { type: 'template'; template: Template }
  | { type: 'show'; shown: Shown | null }
  /** A node to be looked at, though another may show in its place for this recipient. */
  | { type: 'peek'; node: string | null }
  | { type: 'live'; update: LiveUpdate };

/** A mail as a recipient gets it, with what belongs to that recipient alone of the record. */
export interface Filled {
  person: number;
  turn: number;
  /** As it is looked at: with an else that is peeked at. */
  mail: Mail;
  /** Of the mail as the recipient gets it. */
  trail: Trail;
  /** The template's own condition does not hold: this recipient gets no mail. */
  held: boolean;
  /** Where it ran into a bound of a mail, as the recipient gets it; null where it is whole. */
  cut: Cut | null;
  formulas: string[];
  /** Its days packed: see `packDays`. */
  own: Fields;
}

/** What the worker tells the page. */
export type FromWorker =
  | { type: 'filled'; filled: Filled }
  /** As it came, its dates not revived. */
  | { type: 'shared'; shared: SharedData; library: ShopLibrary }
  | { type: 'shape'; shape: Shape }
  | { type: 'checked'; findings: SiteFinding[] }
  | { type: 'built'; findings: BuildFinding[] }
  /** People of the shop changed in a way that the list of recipients shows. */
  | { type: 'people'; ids: number[] }
  | { type: 'problem'; message: string | null };
