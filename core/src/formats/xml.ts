import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { FormatError } from './formatError';
import { xmlProblem } from './xmlProblem';

/** An element: attributes begin with `@`, its own text is `#text`. */
export type XmlElement = Record<string, unknown>;

const MAX_NESTED = 100;
const MAX_ELEMENTS = 500_000;
const MAX_ATTRIBUTES = 100;

const options = {
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: true,
  htmlEntities: true,
  alwaysCreateTextNode: true,
  maxNestedTags: MAX_NESTED,
};

const plain = new XMLParser({ ...options, trimValues: false });
/** Elements of feeds whose words may hold HTML, escaped or as elements: they are read as they stand. */
const WORDED = ['title', 'summary', 'content', 'description', 'content:encoded'];
const feeds = new XMLParser({ ...options, stopNodes: WORDED.map((name) => `*.${name}`) });

const lineOf = (text: string, at: number): number => text.slice(0, at).split('\n').length;

function refuse(text: string, at: number, message: string): never {
  const line = lineOf(text, at);
  throw new FormatError(`Line ${line}: ${message}`, line);
}

/** What is passed over whole: how it begins and ends, and what it is called. */
const PASSED = [
  ['<!--', '-->', 'a comment'],
  ['<![CDATA[', ']]>', 'a CDATA section'],
  ['<?', '?>', 'a processing instruction'],
] as const;

/**
 * Refuses what would take too long or too much memory, before any of it is read, in one pass: whatever begins and does not end
 * is told here, since looking for its end again and again takes a time that grows with the square of the length.
 */
function refuseTooMuch(text: string): void {
  let elements = 0;
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', at + 1)) {
    const passed = PASSED.find(([begin]) => text.startsWith(begin, at));
    if (passed) {
      const [begin, ending, name] = passed;
      const end = text.indexOf(ending, at + begin.length);
      if (end < 0) refuse(text, at, `this is not sound XML. Here begins ${name} that never ends.`);
      at = end + ending.length - 1;
      continue;
    }
    if (++elements > 2 * MAX_ELEMENTS)
      throw new FormatError(
        `This XML has more than ${MAX_ELEMENTS.toLocaleString('en-GB')} elements, which is more than Carafe reads of one document.`,
      );
    const next = text.indexOf('<', at + 1);
    const end = text.indexOf('>', at);
    if (end < 0 || (next >= 0 && next < end))
      refuse(
        text,
        at,
        'this is not sound XML. A “<” stands alone: in words it is written as “&lt;”.',
      );
    const attributes = text.slice(at, end).split('=').length - 1;
    // An equals sign can stand in a value as well, so that only far too many are told.
    if (attributes > 10 * MAX_ATTRIBUTES)
      refuse(text, at, `an element has more than ${MAX_ATTRIBUTES} attributes; this is no feed.`);
  }
}

/**
 * Reads XML. A DTD or an entity of its own is refused, whatever it says: that is how a small file
 * becomes a huge one, or reads files of this machine. Throws a FormatError with the line.
 */
export function readXml(text: string): XmlElement {
  const declared = /<!(DOCTYPE|ENTITY|ELEMENT|ATTLIST)/i.exec(text);
  if (declared) {
    const line = text.slice(0, declared.index).split('\n').length;
    throw new FormatError(
      `Line ${line}: this document brings a DTD or entities of its own, which Carafe does not read.`,
      line,
    );
  }
  refuseTooMuch(text);
  const sound = XMLValidator.validate(text, { allowBooleanAttributes: false });
  if (sound !== true) {
    const { line, msg } = sound.err;
    throw new FormatError(`Line ${line}: this is not sound XML. ${xmlProblem(msg)}`, line);
  }
  try {
    return feeds.parse(text) as XmlElement;
  } catch (error) {
    const { message } = error as Error;
    throw new FormatError(
      /nested/i.test(message)
        ? `This XML is nested more than ${MAX_NESTED} levels deep.`
        : `This XML cannot be read. ${xmlProblem('')}`,
    );
  }
}

/** The text that a raw piece of XML stands for: entities read, CDATA opened. */
export function xmlText(raw: string): string {
  const piece = plain.parse(`<x>${raw}</x>`) as { x?: XmlElement };
  return textOf(piece.x);
}

const CDATA = /<!\[CDATA\[(.*?)\]\]>/gs;
const ELEMENT = /<[a-z]/i;
const COMMENT = /<!--.*?-->/gs;
/** Words as HTML. */
export const asHtml = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;');

/** The HTML of a raw piece of XML: opened where it is escaped, as it stands where its elements were not. */
export function xmlHtml(raw: string): string {
  if (!ELEMENT.test(raw.replace(CDATA, '').replace(COMMENT, ''))) return xmlText(raw);
  return raw.replace(CDATA, (_, text: string) => asHtml(text));
}

/** The children of a name, however many there are. */
export function children(element: unknown, name: string): XmlElement[] {
  if (typeof element !== 'object' || element === null || !Object.hasOwn(element, name)) return [];
  const found = (element as XmlElement)[name];
  return (Array.isArray(found) ? found : [found]).map((child: unknown) =>
    typeof child === 'object' && child !== null ? (child as XmlElement) : { '#text': child },
  );
}

/** The text of an element, or ''. */
export function textOf(element: unknown): string {
  if (typeof element === 'string') return element.trim();
  if (typeof element !== 'object' || element === null) return '';
  const text = (element as XmlElement)['#text'];
  return typeof text === 'string' || typeof text === 'number' ? String(text).trim() : '';
}

/** The text of the first child of a name, or undefined where it is blank. */
export function childText(element: unknown, name: string): string | undefined {
  for (const child of children(element, name)) {
    const text = textOf(child);
    if (text !== '') return text;
  }
  return undefined;
}

export function attribute(element: unknown, name: string): string | undefined {
  if (typeof element !== 'object' || element === null) return undefined;
  const value = (element as XmlElement)[`@${name}`];
  return typeof value === 'string' && value.trim() !== '' ? value.trim() : undefined;
}
