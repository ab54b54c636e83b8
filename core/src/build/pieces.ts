import type { Section, Template } from '../template/schema';
import { directionOf } from './direction';
import { Latest } from './latest';
import { sectionMjml, sectionText, type Build } from './mjml';
import { placedIn, Placeholders } from './placeholders';
import {
  frameMjml,
  withRules,
  withSections,
  type FrameSkeleton,
  type SectionSkeleton,
  type Skeletons,
} from './skeleton';
import { tidyHtml } from './tidy';
import type { BuildFinding } from './writer';

/** A section made ready by itself: the same wherever it stands. */
export interface Piece {
  html: string;
  text: string;
  placeholders: Placeholders;
  findings: readonly BuildFinding[];
  skeleton: SectionSkeleton;
}

/** So many sections are kept, the latest: some large templates that are worked on. */
const MOST_SECTIONS = 600;
const MOST_FRAMES = 20;

/** What is kept from one build to the next. */
export class Kept {
  /** By what a section says. */
  readonly pieces = new Latest<Piece>(MOST_SECTIONS);
  /** By the MJML of a section, and of a document without sections. */
  readonly sections = new Latest<SectionSkeleton>(MOST_SECTIONS);
  readonly frames = new Latest<FrameSkeleton>(MOST_FRAMES);
}

/** A section as it was written, before MJML made HTML of it. */
interface Written extends Omit<Piece, 'html' | 'skeleton'> {
  key: string;
  mjml: string;
}

/** Pieces of a document, in their order, and what stands round them. */
export interface Pieces {
  pieces: readonly Piece[];
  frame: FrameSkeleton;
  /** All of its skeletons: whoever has them needs no MJML for it. */
  skeletons: Skeletons;
}

/** What a template still needs of MJML; see `begin`. */
export interface Begun {
  /** The template with only those sections whose skeletons are not known; null where all is known. */
  asks: Template | null;
  /** The MJML of what is asked for. */
  source(): string;
  /** Makes the pieces, with the skeletons of what was asked for. */
  finish(got?: Skeletons): Pieces;
}

/**
 * Writes the sections of a template that are not known as they are. MJML is needed for those alone of which more
 * than the words is new, and for the document round them if that is new.
 */
export function begin(template: Template, build: Build, kept: Kept): Begun {
  const common = `${build.direction} ${JSON.stringify(template.style)}`;
  const made = template.sections.map((section): Piece | Written => {
    const key = `${common} ${JSON.stringify(section)}`;
    return kept.pieces.get(key) ?? { key, ...written(section, build) };
  });
  const skeletons = made.map((one) =>
    'skeleton' in one ? one.skeleton : kept.sections.get(`${common} ${one.mjml}`),
  );
  const frameSource = frameMjml(template, build);
  const frame = kept.frames.get(frameSource);
  // Sections that differ in their words alone are asked for once.
  const missing = new Map<string, number[]>();
  made.forEach((one, i) => {
    if (skeletons[i] || 'skeleton' in one) return;
    const alike = missing.get(one.mjml);
    if (alike) alike.push(i);
    else missing.set(one.mjml, [i]);
  });
  const isKnown = missing.size === 0 && frame !== undefined;
  return {
    asks: isKnown
      ? null
      : {
          ...template,
          sections: [...missing.values()].flatMap(([first = 0]) => template.sections[first] ?? []),
        },
    source: () => withSections(frameSource, [...missing.keys()]),
    finish(got) {
      [...missing].forEach(([mjml, alike], at) => {
        const skeleton = got?.sections[at];
        if (!skeleton || !isOf(skeleton, mjml))
          throw new Error('The HTML of a section is of another one; this is a fault in build.');
        for (const i of alike) skeletons[i] = skeleton;
        kept.sections.set(`${common} ${mjml}`, skeleton);
      });
      const round = frame ?? got?.frame;
      if (!round) throw new Error('An email is made without a document; this is a fault in build.');
      kept.frames.set(frameSource, round);
      const sections = skeletons as SectionSkeleton[];
      const pieces = made.map((one, i) => {
        if ('skeleton' in one) return one;
        const piece = pieceOf(one, sections[i] as SectionSkeleton);
        kept.pieces.set(one.key, piece);
        return piece;
      });
      const { placeholders } = build;
      return {
        pieces,
        skeletons: { sections, frame: round },
        frame: {
          before: tidyHtml(placeholders.withWords(withRules(round.before, sections))),
          after: tidyHtml(round.after),
        },
      };
    },
  };
}

/** Whether a skeleton may have been made from a section: the same placeholders stand in it. */
function isOf({ html }: SectionSkeleton, mjml: string): boolean {
  const placed = placedIn(mjml);
  const got = placedIn(html);
  return got.size === placed.size && [...placed].every((one) => got.has(one));
}

function pieceOf({ key: _, mjml: __, ...piece }: Written, skeleton: SectionSkeleton): Piece {
  const html = tidyHtml(piece.placeholders.withWords(skeleton.html));
  return { ...piece, html, skeleton };
}

function written(section: Section, { style, direction }: Build): Omit<Written, 'key'> {
  const placeholders = new Placeholders();
  const findings: BuildFinding[] = [];
  const own: Build = { style, direction, placeholders, findings };
  const mjml = sectionMjml(section, own);
  return { mjml, text: sectionText(section, own), placeholders, findings };
}

/** What building a document needs, at its start. */
export function buildOf({ style, language }: Template): Build {
  return {
    style,
    direction: directionOf(language),
    placeholders: new Placeholders(),
    findings: [],
  };
}
