import { timingSafeEqual } from 'node:crypto';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { Refusal } from './errors';

const LOOPBACK = new Set(['localhost', '127.0.0.1', '[::1]']);

export function isLoopback(host: string): boolean {
  return LOOPBACK.has(host) || host === '::1';
}

/**
 * Answers only to names of this machine (or, with a token, to any), and takes changes only from
 * pages that it served itself: what a foreign page sends carries another Origin.
 */
export function hostAndOrigin(token: string | undefined): RequestHandler {
  return (request, _response, next) => {
    const host = request.headers.host ?? '';
    const name = host.replace(/:\d+$/, '');
    if (!token && !LOOPBACK.has(name))
      throw new Refusal(403, `This Carafe only answers on this machine, not as “${name}”.`);
    const { origin } = request.headers;
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`)
      throw new Refusal(403, 'Requests from other pages are not answered.');
    next();
  };
}

/** Asks for the access token, as a Bearer header or, for browsers, once as ?token= and then a cookie. */
export function accessToken(token: string): RequestHandler {
  const matches = (given: string) => {
    const [a, b] = [Buffer.from(given), Buffer.from(token)];
    return a.length === b.length && timingSafeEqual(a, b);
  };
  return (request, response, next) => {
    const bearer = /^Bearer (.+)$/.exec(request.headers.authorization ?? '')?.[1];
    const cookie = /(?:^|;\s*)carafe_token=([^;]+)/.exec(request.headers.cookie ?? '')?.[1];
    const asked = typeof request.query['token'] === 'string' ? request.query['token'] : undefined;
    if (asked !== undefined && matches(asked))
      response.cookie('carafe_token', asked, { httpOnly: true, sameSite: 'strict' });
    const given = bearer ?? asked ?? (cookie && decoded(cookie));
    if (!given || !matches(given))
      throw new Refusal(401, 'An access token is needed: add ?token=… to the address.');
    next();
  };
}

/** What a cookie stands for; one that is written wrongly stands for nothing. */
function decoded(cookie: string): string {
  try {
    return decodeURIComponent(cookie);
  } catch {
    return '';
  }
}

/** Headers that keep foreign code out of the interface. Mails are shown in frames without scripts. */
export function strictHeaders(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        // Mails carry their looks in style attributes, and the interface sets some at run time.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'https:'],
        fontSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        frameSrc: ["'self'"],
        frameAncestors: ["'none'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'none'"],
      },
    },
    // Plain http on loopback: telling browsers to insist on https would lock people out.
    strictTransportSecurity: false,
    referrerPolicy: { policy: 'no-referrer' },
  });
}
