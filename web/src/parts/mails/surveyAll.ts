import { ENDPOINTS, type AnswerOf, type AudienceChoice } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import { addFigures, type Survey } from '@carafe/core/variant';
import { ask } from '../../app/ask';

/** The first piece is small, so that something is seen at once. */
const FIRST = 400;
const PIECE = 3_000;

export interface SurveySoFar {
  survey: Survey;
  /** The template that it was made of. */
  of: Template;
  looked: number;
  people: number;
  running: boolean;
}

/**
 * Fills a template for everybody of an audience, a piece at a time, and tells how far it got. Ends with null as soon as
 * `told` says that nobody wants more of it.
 */
export async function surveyAll(
  template: Template,
  audience: AudienceChoice,
  told: (soFar: SurveySoFar) => boolean,
): Promise<Survey | null> {
  let survey: Survey | null = null;
  let looked = 0;
  for (let after: number | null = 0; after !== null;) {
    const piece: AnswerOf<typeof ENDPOINTS.survey> = await ask(ENDPOINTS.survey, {
      params: { shop: template.shop },
      body: { template, audience, after, most: after === 0 ? FIRST : PIECE },
    });
    const { decisions } = piece.survey;
    survey = survey ? { ...addFigures(survey, piece.survey), decisions } : piece.survey;
    looked += piece.looked;
    after = piece.next;
    const { people } = piece;
    if (!told({ survey, of: template, looked, people, running: after !== null })) return null;
  }
  return survey;
}
