/** A mail that is to be written as a message (RFC 5322, RFC 2045–2047). */
export interface MimeMail {
  from: { name: string; address: string };
  to: { name: string; address: string };
  subject: string;
  date: Date;
  /** With its angle brackets. */
  messageId: string;
  text: string;
  html: string;
  headers: Readonly<Record<string, string>>;
}

const CRLF = '\r\n';
/** A line of base64 has so many characters. */
const LINE = 76;
/** An encoded word has at most 75 characters: so many bytes fit beside its frame. */
const BYTES_A_WORD = 42;

/** Anything that would end a header, or is no character of a mail. */
const BREAKS = /[\u0000-\u001f\u007f]+/g;

/** Marks that turn the direction of writing: with them a name can read as another one. */
const DIRECTIONS = /[\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/g;

/**
 * A name or a subject of one line that says what it says: no breaks, no turned directions, and nothing that a mail program
 * would read as an encoded word (RFC 2047).
 */
export const harmless = (text: string): string =>
  text.replace(BREAKS, ' ').replace(DIRECTIONS, '').replace(/=\?/g, '= ?').trim();

/** Words of a header that are not plain ASCII, as encoded words that end between characters (RFC 2047). */
function encodedWords(text: string): string {
  const words: string[] = [];
  let bytes = 0;
  let word = '';
  for (const character of text) {
    const size = Buffer.byteLength(character);
    if (bytes + size > BYTES_A_WORD) {
      words.push(word);
      word = '';
      bytes = 0;
    }
    word += character;
    bytes += size;
  }
  words.push(word);
  return words.map((one) => `=?UTF-8?B?${Buffer.from(one).toString('base64')}?=`).join(`${CRLF} `);
}

/** A plain line folded at spaces, so that none is longer than 76 characters where that can be. */
function folded(text: string, first: number): string {
  const lines: string[] = [];
  let line = '';
  let room = 76 - first;
  for (const word of text.split(' ')) {
    if (line !== '' && line.length + 1 + word.length > room) {
      lines.push(line);
      line = word;
      room = 75;
    } else line = line === '' && lines.length === 0 ? word : `${line} ${word}`;
  }
  lines.push(line);
  return lines.join(`${CRLF} `);
}

/** Printable ASCII with single spaces inside, which may stand as it is. */
const PLAIN = /^[!-~]+(?: [!-~]+)*$/;
const LONGEST_WORD = /[^ ]{60,}/;

function header(name: string, text: string): string {
  const clean = harmless(text);
  const isPlain = PLAIN.test(clean) && !clean.includes('=?') && !LONGEST_WORD.test(clean);
  const value = isPlain || clean === '' ? folded(clean, name.length + 2) : encodedWords(clean);
  return `${name}: ${value}${CRLF}`;
}

const plain = (value: string): string => value.replace(/[^ -~]/g, '');

/** A header whose value is a token of its own: an address, an id, a link. */
const rawHeader = (name: string, value: string): string => `${name}: ${plain(value)}${CRLF}`;

const ATOM = /^[A-Za-z0-9!#$%&'*+/=?^_`{|}~-]+(?: [A-Za-z0-9!#$%&'*+/=?^_`{|}~-]+)*$/;

/** Whom a message is from or for: the name where there is one, and the address (RFC 5322, 3.4). */
function mailbox(header: 'From' | 'To', { name, address }: MimeMail['from']): string {
  const clean = harmless(name);
  if (clean === '') return rawHeader(header, address);
  const isPlain = /^[ -~]*$/.test(clean) && !clean.includes('=?') && clean.length < 60;
  const said = ATOM.test(clean)
    ? clean
    : isPlain
      ? `"${clean.replace(/["\\]/g, '\\$&')}"`
      : encodedWords(clean);
  return `${header}: ${said}${said.length + address.length > 66 ? `${CRLF} ` : ' '}<${plain(address)}>${CRLF}`;
}

/** A date as RFC 5322 writes it, in UTC. */
const dateOf = (date: Date): string => date.toUTCString().replace(/GMT$/, '+0000');

/** A body as base64 in lines: every byte comes out as it went in. */
function base64(bytes: Buffer): string {
  const all = bytes.toString('base64');
  const lines: string[] = [];
  for (let i = 0; i < all.length; i += LINE) lines.push(all.slice(i, i + LINE));
  return lines.join(CRLF);
}

/** A part of a message: its words as they stand, one byte a letter, or a body that stands there as base64. */
export type MessagePart = string | Buffer;

/** The bytes of a message. */
export function bytesOf(parts: readonly MessagePart[]): Buffer {
  const words = parts.map((part) => (typeof part === 'string' ? part : base64(part)));
  return Buffer.from(words.join(''), 'latin1');
}

const headOf = (type: string): string =>
  `Content-Type: ${type}; charset=utf-8${CRLF}Content-Transfer-Encoding: base64${CRLF}${CRLF}`;

/**
 * A message with a text and an HTML part (RFC 2046, multipart/alternative). Written here because a general composer takes
 * a hundred times as long as filling the mail; tests read it back with one.
 */
export function messageOf(mail: MimeMail): MessagePart[] {
  const boundary = `=_${mail.messageId.replace(/[^A-Za-z0-9]/g, '').slice(0, 50)}`;
  const head =
    mailbox('From', mail.from) +
    mailbox('To', mail.to) +
    header('Subject', mail.subject) +
    rawHeader('Message-ID', mail.messageId) +
    rawHeader('Date', dateOf(mail.date)) +
    Object.entries(mail.headers)
      .map(([name, value]) => rawHeader(name.replace(/[^A-Za-z0-9-]/g, ''), value))
      .join('') +
    `MIME-Version: 1.0${CRLF}Content-Type: multipart/alternative; boundary="${boundary}"${CRLF}${CRLF}`;
  return [
    `${head}--${boundary}${CRLF}${headOf('text/plain')}`,
    Buffer.from(mail.text, 'utf8'),
    `${CRLF}--${boundary}${CRLF}${headOf('text/html')}`,
    Buffer.from(mail.html, 'utf8'),
    `${CRLF}--${boundary}--${CRLF}`,
  ];
}

/** The bytes of a mail as a message. */
export const mimeOf = (mail: MimeMail): Buffer => bytesOf(messageOf(mail));
