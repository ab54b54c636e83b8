import type { Program } from '../build';
import { runnable, parsedFormula, walk, type Evaluate, type Fields } from '../formula';
import { contextFor, Digest, prepare, Tally, type Mail, type PrepareOptions } from '../render';
import { kindOf } from '../template/kinds';
import type { Template } from '../template/schema';
import { AddressJudge } from './address';
import { MOST_NAMED, type Fact, type Survey, type SurveyFigures } from './figures';
import { addressTeller, leaveLinkOf } from './legal';
import { mailRecord } from './mailRecord';
import { isReached, reachOf, type Reached } from './reach';

export interface SurveyOptions {
  /** Formulas over the record and the mail that must hold for everybody. */
  expectations?: readonly string[];
  /**
   * Whether each person’s mail is told by a number, so that it can be compared with what it was. With a time, also as of
   * then: so that what today’s date alone makes of a mail is no change of it.
   */
  digests?: boolean | Date;
}

/**
 * Facts of the mail itself; those of addresses are `address:<decision>:<problem>`, of products `ordered:<sku>`,
 * `twice:<sku>`, of who gets it `language:<language>`, of a mail that is not whole `cut:<by>:<node>:<path>`.
 */
export const MAIL_FACTS = [
  ...(['subject_blank', 'subject_long', 'subject_capitals', 'subject_twice'] as const),
  ...(['preview_blank', 'preview_same', 'heavy', 'held'] as const),
  ...(['no_unsubscribe', 'no_postal_address'] as const),
] as const;
export type MailFact = (typeof MAIL_FACTS)[number];

/** Some mail programs show no more of a mail than about so many bytes. */
const HEAVY = 100_000;
/** What is about this large is weighed. */
const NEARLY_HEAVY = 30_000;
/** Longer subjects are cut by phones and by many mail programs. */
const LONG_SUBJECT = 60;
/** So many products at most are told of. */
export const MOST_PRODUCTS = 5_000;

const SMALL = /\p{Ll}/u;
const TWICE = /\b(\p{L}{2,})\s+\1\b/iu;

/** What is true of a subject and a preview text. */
function factsOf({ subject, preview_text }: Mail): MailFact[] {
  const facts: MailFact[] = [];
  if (subject === '') facts.push('subject_blank');
  else {
    if (subject.length > LONG_SUBJECT && Array.from(subject).length > LONG_SUBJECT)
      facts.push('subject_long');
    // One small letter is enough to know: few need a closer look.
    const letters = SMALL.test(subject) ? '' : subject.replace(/[^\p{L}]/gu, '');
    if (
      letters.length > 5 &&
      letters === letters.toUpperCase() &&
      letters !== letters.toLowerCase()
    )
      facts.push('subject_capitals');
    if (TWICE.test(subject)) facts.push('subject_twice');
  }
  if (preview_text === '') facts.push('preview_blank');
  else if (preview_text.toLowerCase() === subject.toLowerCase()) facts.push('preview_same');
  return facts;
}

const LANGUAGE = /^[a-z]{2,3}(?![a-z])/i;

/** The language that a person reads, by its code (BCP 47, the primary subtag); undefined where none is known. */
function languageOf(record: Fields): string | undefined {
  const { person } = record as { person?: { locale?: unknown } };
  const locale = person?.locale;
  return typeof locale === 'string' ? LANGUAGE.exec(locale)?.[0].toLowerCase() : undefined;
}

const isHeavy = (html: string): boolean =>
  html.length > HEAVY || (html.length * 3 > HEAVY && new TextEncoder().encode(html).length > HEAVY);

/** What a formula reads of `mail`. */
function mailReads(formulas: readonly string[]): Set<string> {
  const reads = new Set<string>();
  for (const source of formulas) {
    const parsed = parsedFormula(source);
    if (parsed.ok)
      walk(parsed.value, (node) => {
        if (node.type === 'field' && node.of.type === 'name' && node.of.name === 'mail')
          reads.add(node.name);
        if (node.type === 'index' && node.of.type === 'name' && node.of.name === 'mail')
          ['text', 'size', 'links', 'pictures', 'shown'].forEach((name) => reads.add(name));
      });
  }
  return reads;
}

/** What tells the mails of a program as they are at a time by numbers. */
function digestAsOf(program: Program, asOf: Date, how: PrepareOptions): (record: Fields) => number {
  const tally = new Tally();
  const digest = new Digest();
  tally.digest = digest;
  const render = prepare(program, { ...how, tally });
  return (record) => {
    render(record, { asOf });
    digest.put(tally.key());
    return digest.value;
  };
}

/**
 * Fills a template for one person after the other and counts what was decided: conditions, lists, blanks, fallbacks,
 * addresses, what is true of subject and weight, and the expectations that a mail breaks.
 */
export class Surveyor {
  private readonly tally = new Tally();
  private readonly render;
  /** For the few whose mail is perhaps too heavy. */
  private readonly whole;
  private readonly expectations: (Evaluate | null)[];
  private readonly reads: ReadonlySet<string>;
  private readonly reached: Reached[];
  private readonly tellsAddress: ReturnType<typeof addressTeller>;
  private readonly judge = new AddressJudge();
  private people = 0;
  private readonly digests: number[] = [];
  /** Fills as of the time before; gives the digest. */
  private readonly asBefore: ((record: Fields) => number) | null;
  private readonly variants = new Map<string, { people: number; person: number }>();
  private readonly facts = new Map<string, Fact>();
  private readonly products = new Map<string, Fact>();
  private readonly addresses = new Map<number, { only: string | null; given: number }>();
  private readonly broken: { people: number; persons: number[] }[];

  constructor(
    template: Template,
    program: Program,
    { expectations = [], digests = false }: SurveyOptions = {},
  ) {
    if (digests !== false) this.tally.digest = new Digest();
    this.reads = mailReads(expectations);
    const makes = ['text', 'size', 'links', 'pictures'].some((name) => this.reads.has(name));
    const how = { products: true, text: this.reads.has('text'), dry: !makes };
    this.render = prepare(program, { ...how, tally: this.tally });
    this.asBefore = digests instanceof Date ? digestAsOf(program, digests, how) : null;
    this.whole = prepare(program, { text: false });
    this.reached = reachOf(template, this.tally.decisions);
    this.tellsAddress = addressTeller(this.reached);
    this.expectations = expectations.map((source) => {
      const parsed = parsedFormula(source);
      return parsed.ok ? runnable(parsed.value) : null;
    });
    this.broken = expectations.map(() => ({ people: 0, persons: [] }));
  }

  /** Fills for one person; gives the mail, which nobody needs to keep. */
  look(person: number, record: Fields, asOf: Date): Mail {
    const { tally } = this;
    const judge = this.judge.of(record);
    const wrong = new Map<string, string>();
    const leave = leaveLinkOf(record);
    let hasLeave = false;
    tally.onAddress = (decision, address) => {
      if (address === '') return;
      if (address === leave) hasLeave = true;
      const known = this.addresses.get(decision);
      if (!known) this.addresses.set(decision, { only: address, given: 1 });
      else {
        known.given++;
        if (known.only !== null && known.only !== address) known.only = null;
      }
      const problem = judge(address);
      if (problem) wrong.set(`address:${decision}:${problem}`, address);
    };
    const { mail, held, cut: cutDry, size = 0 } = this.render(record, { asOf });
    this.people++;
    const key = tally.key();
    this.group(person, key);
    if (tally.digest) {
      tally.digest.put(key);
      const { value } = tally.digest;
      this.digests.push(person, value, this.asBefore?.(record) ?? value);
    }
    const note = (name: string, sample: string) => this.note(this.facts, name, person, sample);
    if (held) note('held', '');
    const language = languageOf(record);
    if (language !== undefined) note(`language:${language}`, '');
    for (const name of factsOf(mail)) note(name, mail.subject);
    // Who gets no email misses nothing in it.
    if (!held && leave !== '' && !hasLeave) note('no_unsubscribe', '');
    if (!held && !this.tellsAddress(record, tally.bits)) note('no_postal_address', '');
    const whole = size > NEARLY_HEAVY ? this.whole(record, { asOf }) : { mail, cut: cutDry };
    if (isHeavy(whole.mail.html)) note('heavy', '');
    const cut = whole.cut ?? cutDry;
    if (cut) note(`cut:${cut.by}:${cut.node}:${cut.path}`, '');
    for (const [name, sample] of wrong) note(name, sample);
    this.noteProducts(person, record);
    this.expect(person, record, mail, asOf);
    return mail;
  }

  private group(person: number, key: string): void {
    const known = this.variants.get(key);
    if (known) known.people++;
    else this.variants.set(key, { people: 1, person });
  }

  private note(into: Map<string, Fact>, name: string, person: number, sample: string): void {
    const known = into.get(name);
    if (known) known.people++;
    else into.set(name, { people: 1, person, sample });
  }

  private noteProducts(person: number, record: Fields): void {
    const { order } = record as { order?: { lines?: { sku?: unknown }[] } };
    const { twice, offered } = this.tally;
    for (const sku of offered)
      if (this.products.has(sku) || this.products.size < MOST_PRODUCTS)
        this.note(this.products, sku, person, '');
    for (const sku of twice) this.note(this.facts, `twice:${sku}`, person, sku);
    if (offered.size === 0 || !order?.lines || order.lines.length === 0) return;
    const ordered = new Set(order.lines.map(({ sku }) => sku));
    for (const sku of offered)
      if (ordered.has(sku)) this.note(this.facts, `ordered:${sku}`, person, sku);
  }

  private expect(person: number, record: Fields, mail: Mail, asOf: Date): void {
    if (this.expectations.length === 0) return;
    const shown = () =>
      this.reached
        .filter(({ needed }) => isReached(needed, this.tally.bits))
        .map(({ node }) => kindOf(node).label(node as never));
    const whole = { ...record, mail: mailRecord(mail, shown, this.reads) };
    const context = contextFor(whole as Fields, { asOf });
    this.expectations.forEach((holds, i) => {
      const broken = this.broken[i];
      if (!broken || !holds || holds(context) === true) return;
      broken.people++;
      if (broken.persons.length < MOST_NAMED) broken.persons.push(person);
    });
  }

  /** What was counted so far. */
  survey(): Survey {
    const figures: SurveyFigures = {
      people: this.people,
      variants: [...this.variants].map(([key, one]) => ({ key, ...one })),
      facts: Object.fromEntries(this.facts),
      addresses: [...this.addresses].map(([decision, one]) => ({ decision, ...one })),
      products: Object.fromEntries(this.products),
      broken: this.broken,
    };
    if (this.tally.digest) figures.digests = this.digests;
    return { ...figures, decisions: this.tally.decisions };
  }
}
