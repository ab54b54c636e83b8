import { domainToASCII } from 'node:url';

const ADDRESS = /^[^\s@<>(),;:"\\]+@[^\s@<>(),;:"\\]+$/;
const LONGEST = 254;

/**
 * An address as every mail server carries it: the letters of a host that are not ASCII as IDNA writes them (RFC 5891).
 * Null where it is none, or has other letters before the @, which only some servers take (RFC 6531).
 */
export function carriedAddress(address: string): string | null {
  if (!ADDRESS.test(address)) return null;
  const at = address.lastIndexOf('@');
  const [local, host] = [address.slice(0, at), domainToASCII(address.slice(at + 1))];
  if (host === '' || !/^[!-~]+$/.test(local)) return null;
  // Dots at an end or side by side are no atom: they stand in quotes (RFC 5321, 4.1.2).
  const isAtom = !/^\.|\.$|\.\./.test(local);
  const carried = `${isAtom ? local : `"${local}"`}@${host}`;
  return carried.length > LONGEST ? null : carried;
}
