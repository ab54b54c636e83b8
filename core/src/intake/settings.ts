import { z } from 'zod';
import { FORMATS } from '../formats/detect';
import { Dialect } from '../formats/dialect';
import { ENCODINGS } from '../formats/encoding';
import { Mapping } from './mapping';

/** How a file of a source is read. Kept with the source, and used again for its next file. */
export const FileSettings = z.object({
  format: z.enum(FORMATS),
  encoding: z.enum(ENCODINGS),
  dialect: Dialect,
  /** The list inside a JSON document (RFC 6901); empty for the document itself. */
  pointer: z.string().max(500),
  mapping: Mapping,
  /** Take only people who gave their consent. */
  consented_only: z.boolean(),
});
export type FileSettings = z.infer<typeof FileSettings>;

/** Where somebody has set something by hand, that holds; the rest is found in the file. */
export const GivenSettings = FileSettings.partial();
export type GivenSettings = z.infer<typeof GivenSettings>;
