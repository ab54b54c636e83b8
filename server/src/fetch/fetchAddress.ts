import { lookup as resolve, type LookupAddress } from 'node:dns';
import { request as requestHttp, type IncomingMessage } from 'node:http';
import { request as requestHttps } from 'node:https';
import type { LookupFunction } from 'node:net';
import { Transform, type Readable } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import ipaddr from 'ipaddr.js';
import { Refusal } from '../http/errors';

export interface FetchRules {
  /** The address of this Carafe, whose stand-ins may be asked though they are on this machine. */
  self: string;
  /** The access token that it asks for, if it does; sent to its own stand-ins alone. */
  token?: string | undefined;
  maxBytes: number;
  maxMilliseconds: number;
  /** Whether a numeric address may be asked; the public ones, where it is left out. */
  allows?: (address: string) => boolean;
}

export const FETCH_LIMITS = { maxBytes: 200_000_000, maxMilliseconds: 60_000 };
const MAX_REDIRECTS = 5;
const STAND_INS = /^\/(?:journal|shop)\//;

/** Whether a numeric address is one of the open network: no loopback, private, link-local or reserved range. */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const read = ipaddr.process(address);
  if (read.range() !== 'unicast') return false;
  // ::a.b.c.d, the old way to write an address of version 4 as one of version 6 (RFC 4291, 2.5.5.1).
  return read.kind() === 'ipv4' || read.toByteArray().slice(0, 12).some(Boolean);
}

/** An address as a person writes it, as a URL; one that begins with / is a stand-in of this Carafe. */
export function addressOf(written: string, self: string): URL {
  if (STAND_INS.test(written)) return new URL(written, self);
  let url: URL;
  try {
    url = new URL(written);
  } catch {
    throw new Refusal(422, `“${written}” is not a web address. It must begin with https://.`);
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:')
    throw new Refusal(422, `Only http and https addresses can be fetched, not “${written}”.`);
  if (url.username || url.password)
    throw new Refusal(422, 'Addresses that contain a user name and password are not fetched.');
  return url;
}

function isStandIn(url: URL, self: string): boolean {
  return self !== '' && url.origin === new URL(self).origin && STAND_INS.test(url.pathname);
}

/** Asks names to be resolved, and refuses what they lead to before any connection is made. */
function guardedLookup(allows: (address: string) => boolean): LookupFunction {
  return (hostname, options, callback) => {
    resolve(hostname, { ...options, all: true }, (error, addresses: LookupAddress[]) => {
      if (error) {
        callback(error, '', 0);
        return;
      }
      const bad = addresses.find(({ address }) => !allows(address));
      if (bad) {
        callback(privateRange(hostname), '', 0);
        return;
      }
      const [first] = addresses;
      if (options.all) callback(null, addresses as never);
      else callback(null, first?.address ?? '', first?.family ?? 4);
    });
  };
}

const privateRange = (host: string) =>
  new Refusal(422, `“${host}” is in a private network, and Carafe does not fetch from those.`);

function open(url: URL, rules: FetchRules, signal: AbortSignal): Promise<IncomingMessage> {
  const allows = rules.allows ?? isPublic;
  const own = isStandIn(url, rules.self);
  const host = url.hostname.replace(/^\[|\]$/g, '');
  if (!own && ipaddr.isValid(host) && !allows(host)) return Promise.reject(privateRange(host));
  const request = url.protocol === 'https:' ? requestHttps : requestHttp;
  return new Promise((done, failed) => {
    request(
      url,
      {
        signal,
        headers: {
          'user-agent': 'Carafe',
          accept: '*/*',
          ...(own && rules.token && { authorization: `Bearer ${rules.token}` }),
        },
        ...(!own && { lookup: guardedLookup(allows) }),
      },
      done,
    )
      .on('error', failed)
      .end();
  });
}

function plainly(error: unknown, url: URL, rules: FetchRules, signal: AbortSignal): Refusal {
  if (error instanceof Refusal) return error;
  const { code } = error as { code?: string };
  if (signal.aborted)
    return new Refusal(
      504,
      `“${url.host}” took longer than ${Math.round(rules.maxMilliseconds / 1000)} seconds. Nothing was changed.`,
    );
  if (code === 'ENOTFOUND' || code === 'EAI_AGAIN')
    return new Refusal(502, `No host is called “${url.hostname}”.`);
  if (code === 'ECONNREFUSED') return new Refusal(502, `“${url.host}” does not answer.`);
  if (code === 'ECONNRESET' || code === 'EPIPE')
    return new Refusal(502, `“${url.host}” stopped before the end. Nothing was changed.`);
  if (code?.startsWith('CERT_') || code?.includes('SIGNED_CERT') || code?.startsWith('ERR_TLS_'))
    return new Refusal(502, `“${url.host}” has no valid certificate, so it was not read.`);
  if (code?.startsWith('HPE_')) return new Refusal(502, `“${url.host}” does not answer with HTTP.`);
  return new Refusal(502, `“${url.host}” could not be read (${code ?? 'no reason was given'}).`);
}

/** Where a redirect leads to. */
function redirected(location: string, from: URL, self: string): URL {
  if (!URL.canParse(location, from))
    throw new Refusal(
      502,
      `“${from.host}” redirects to “${location}”, which is not a web address.`,
    );
  return addressOf(new URL(location, from).href, self);
}

/** What undoes the ways of packing a body; null for one that is not known. */
function unpacking(encoding: string): Transform | 'plain' | null {
  switch (encoding.trim().toLowerCase()) {
    case '':
    case 'identity':
      return 'plain';
    case 'gzip':
    case 'x-gzip':
      return createGunzip();
    case 'deflate':
      return createInflate();
    case 'br':
      return createBrotliDecompress();
    default:
      return null;
  }
}

/**
 * Fetches an address within limits of time and size. Every redirect is looked at as if it were the
 * first address. Throws a Refusal with a sentence.
 */
export async function fetchAddress(
  written: string,
  rules: FetchRules,
): Promise<{ url: URL; type: string; body: Readable }> {
  let url = addressOf(written, rules.self);
  const signal = AbortSignal.timeout(rules.maxMilliseconds);
  for (let turn = 0; turn <= MAX_REDIRECTS; turn++) {
    let answer: IncomingMessage;
    try {
      answer = await open(url, rules, signal);
    } catch (error) {
      throw plainly(error, url, rules, signal);
    }
    const { statusCode = 0, headers } = answer;
    if (statusCode >= 300 && statusCode < 400 && headers.location) {
      answer.destroy();
      url = redirected(headers.location, url, rules.self);
      continue;
    }
    if (statusCode !== 200) {
      answer.destroy();
      throw new Refusal(502, `“${url.host}” answers with ${statusCode} instead of a file.`);
    }
    return { url, type: headers['content-type'] ?? '', body: limited(answer, url, rules, signal) };
  }
  throw new Refusal(502, `“${url.host}” redirects more than ${MAX_REDIRECTS} times.`);
}

/** The body, unpacked, ended with a Refusal where it is too large or too slow. */
function limited(
  answer: IncomingMessage,
  url: URL,
  rules: FetchRules,
  signal: AbortSignal,
): Readable {
  const encoding = answer.headers['content-encoding'] ?? '';
  const unpack = unpacking(encoding);
  if (!unpack) {
    answer.destroy();
    throw new Refusal(
      502,
      `“${url.host}” compresses its answer as “${encoding}”, which Carafe cannot read.`,
    );
  }
  let bytes = 0;
  const body = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (bytes > rules.maxBytes)
        done(
          new Refusal(
            413,
            `“${url.host}” sends more than ${rules.maxBytes / 1e6} MB. Nothing was changed.`,
          ),
        );
      else done(null, chunk);
    },
  });
  answer.on('error', (error) => body.destroy(plainly(error, url, rules, signal)));
  body.on('close', () => answer.destroy());
  if (unpack === 'plain') return answer.pipe(body);
  body.on('close', () => unpack.destroy());
  unpack.on('error', () => {
    body.destroy(
      new Refusal(502, `What “${url.host}” sends is damaged and cannot be decompressed.`),
    );
  });
  return answer.pipe(unpack).pipe(body);
}
