import {
  createCipheriv,
  createDecipheriv,
  createHmac,
  createSecretKey,
  timingSafeEqual,
} from 'node:crypto';
import type { Db } from '../database/open';

/** The secret that links in mails are made with: 64 hex digits. */
export function mailSecret(db: Db): string {
  const secret = db
    .prepare<[], string>("SELECT value FROM secrets WHERE name = 'mail links'")
    .pluck()
    .get();
  if (secret === undefined) throw new Error('The secret of links in emails is gone.');
  return secret;
}

/** Since when each kind of link has a signature of its own, ISO 8601. */
export const linksByKindSince = (db: Db): string =>
  db
    .prepare<[], string>("SELECT value FROM secrets WHERE name = 'links by kind since'")
    .pluck()
    .get() ?? '';

/** Whom a token stands for. */
export interface TokenOf {
  shop: string;
  email: string;
}

const ALGORITHM = 'aes-256-gcm';
const IV = 12;
const TAG = 16;

/**
 * Tokens that stand for a person in the links of mails: encrypted and signed (AES-256-GCM), so that
 * nobody can read an address from one or make one up. The same person always has the same token: the
 * start value is drawn from what is encrypted (a synthetic one, RFC 5297). `secret` is 64 hex digits.
 */
export function mailTokens(secret: string) {
  const key = createSecretKey(secret, 'hex');
  return {
    make({ shop, email }: TokenOf): string {
      const text = JSON.stringify([shop, email]);
      const iv = createHmac('sha256', key).update(text).digest().subarray(0, IV);
      const cipher = createCipheriv(ALGORITHM, key, iv);
      const hidden = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
      return Buffer.concat([iv, cipher.getAuthTag(), hidden]).toString('base64url');
    },
    /** Whom a token stands for; null for one that was not made here. */
    read(token: string): TokenOf | null {
      const bytes = Buffer.from(token, 'base64url');
      if (bytes.length <= IV + TAG || bytes.toString('base64url') !== token) return null;
      const decipher = createDecipheriv(ALGORITHM, key, bytes.subarray(0, IV));
      decipher.setAuthTag(bytes.subarray(IV, IV + TAG));
      try {
        const text = Buffer.concat([decipher.update(bytes.subarray(IV + TAG)), decipher.final()]);
        const [shop = '', email = ''] = JSON.parse(text.toString('utf8')) as string[];
        return { shop, email };
      } catch {
        return null; // it was changed, or made with another secret
      }
    },
  };
}

/**
 * What a signed link may do: show the email in a browser, tell of its opening, be followed, or give the stand-in shop its
 * cart. What one may do, no other may.
 */
export const LINK_KINDS = ['view', 'open', 'go', 'kept'] as const;
export type LinkKind = (typeof LINK_KINDS)[number];

/** What was signed. `isOld`: with the one signature that all links had before each kind had its own. */
export interface SignedLink {
  text: string;
  isOld: boolean;
}

/** Signs ids in links, each kind of link for itself: what was not signed here for it is not answered. */
export function linkSigner(secret: string) {
  const key = createSecretKey(secret, 'hex');
  const sign = (text: string) =>
    createHmac('sha256', key).update(text).digest('base64url').slice(0, 22);
  const isSame = (one: string, other: string): boolean => {
    const [a, b] = [Buffer.from(one), Buffer.from(other)];
    return a.length === b.length && timingSafeEqual(a, b);
  };
  return {
    /** `<text>.<signature>`, fit for a path. */
    make: (kind: LinkKind, text: string): string => `${text}.${sign(`${kind} link ${text}`)}`,
    /** What was signed for a kind of link; null for what was made up, changed, or signed for another kind. */
    read(kind: LinkKind, signed: string): SignedLink | null {
      const dot = signed.lastIndexOf('.');
      if (dot < 1) return null;
      const [text, given] = [signed.slice(0, dot), signed.slice(dot + 1)];
      if (isSame(given, sign(`${kind} link ${text}`))) return { text, isOld: false };
      return isSame(given, sign(`link ${text}`)) ? { text, isOld: true } : null;
    },
  };
}
