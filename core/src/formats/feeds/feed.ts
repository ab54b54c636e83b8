import { FormatError } from '../formatError';
import { readJson } from '../json';
import { readXml } from '../xml';
import { readAtom } from './atom';
import { readJsonFeed } from './jsonFeed';
import type { Feed } from './post';
import { readRss } from './rss';

/** A feed that is read by mails has some dozens. */
export const MAX_POSTS = 10_000;

/** Reads RSS 2.0, Atom or JSON Feed, whichever it is. Throws a FormatError where it is none of them. */
export function readFeed(text: string): Feed {
  const isJson = /^\uFEFF?\s*[{[]/.test(text);
  if (/^\uFEFF?\s*<!doctype html|^\uFEFF?\s*<html/i.test(text))
    throw new FormatError('This is a web page, not a feed. The feed has an address of its own.');
  const feed = isJson ? readJsonFeed(readJson(text)) : readXmlFeed(text);
  if (feed && feed.posts.length > MAX_POSTS)
    throw new FormatError(
      `This feed has ${feed.posts.length.toLocaleString('en-GB')} posts; Carafe reads up to ${MAX_POSTS.toLocaleString('en-GB')} of one feed.`,
    );
  if (!feed) throw new FormatError('This is neither RSS 2.0, nor Atom, nor a JSON Feed.');
  return feed;
}

function readXmlFeed(text: string): Feed | null {
  const document = readXml(text.replace(/^\uFEFF/, ''));
  return readRss(document) ?? readAtom(document);
}
