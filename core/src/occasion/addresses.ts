import { z } from 'zod';
import { counted } from '../words';

/** So many can be listed at most. */
export const MOST_ADDRESSES = 10_000;

/** The address of a mail, in small letters. */
export const Address = z
  .string()
  .trim()
  .toLowerCase()
  .max(254, 'An address has at most 254 letters.')
  .regex(/^[^\s@<>(),;:"\\]+@[^\s@<>(),;:"\\]+$/, 'An address looks like name@shop.example.');

/**
 * Addresses out of a text that somebody wrote or pasted, with commas, semicolons or breaks between them, each once; names
 * before addresses in angle brackets are left out. Where one of them is none, or they are too many, the problem says so.
 */
export function readAddresses(text: string): { addresses: string[]; problem: string | null } {
  const isNamed = /<[^<>\s]*@[^<>\s]*>/;
  const pieces = text.split(/[,;\r\n]+/).flatMap((piece) => {
    const named = isNamed.exec(piece);
    return named ? [named[0].slice(1, -1)] : piece.split(/\s+/);
  });
  const given = [...new Set(pieces.filter((one) => one !== '').map((one) => one.toLowerCase()))];
  const [first, ...others] = given.filter((one) => !Address.safeParse(one).success);
  if (first !== undefined)
    return {
      addresses: [],
      problem: `“${first.slice(0, 80)}” is not an address such as name@shop.example${
        others.length > 0
          ? `, nor ${others.length === 1 ? 'is' : 'are'} ${counted(others.length, 'other')}`
          : ''
      }. None was added yet.`,
    };
  if (given.length > MOST_ADDRESSES)
    return {
      addresses: [],
      problem: `These are ${counted(given.length, 'address', 'addresses')}; at most 10,000 are allowed. Use a segment for more. None was added yet.`,
    };
  return { addresses: given, problem: null };
}
