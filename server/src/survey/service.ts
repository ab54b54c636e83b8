import type {
  AnswerOf,
  AudienceChoice as AudienceAsked,
  BodyOf,
  ENDPOINTS,
} from '@carafe/contract';
import { dataRead } from '@carafe/core/check';
import { CHECKS } from '@carafe/core/checks';
import { templateSites } from '@carafe/core/site';
import { nodeNames, type Template } from '@carafe/core/template';
import {
  addFigures,
  addImpact,
  candidates,
  largestFirst,
  sayVariant,
  usualBits,
  type Survey,
} from '@carafe/core/variant';
import { FETCH_LIMITS } from '../fetch/fetchAddress';
import { Refusal } from '../http/errors';
import type { Job, Jobs } from '../jobs/jobs';
import { FEW, inParts, type Piece } from '../people/inParts';
import type { SegmentsRepository } from '../occasions/segmentsRepository';
import { sendingOf, type SendingParts } from '../occasions/sending';
import type { PeopleRepository } from '../people/repository';
import type { RulesService } from '../recommend/service';
import type { FilledMail, FillTask } from '../render/fillFor';
import type { ShopShapes } from '../shops/shopShapes';
import { templateOrRefuse } from '../templates/service';
import type { TemplatesRepository } from '../templates/repository';
import { askLinks } from './askLinks';
import type { CheckJobs } from './checkTemplate';
import type { ImpactJobs } from './impactSome';
import type { AudienceChoice, SurveyJobs } from './surveySome';

type Body<K extends keyof typeof ENDPOINTS> = BodyOf<(typeof ENDPOINTS)[K]>;
type Answer<K extends keyof typeof ENDPOINTS> = AnswerOf<(typeof ENDPOINTS)[K]>;

interface Given {
  people: Pick<PeopleRepository, 'idsAfter' | 'count'>;
  templates: Pick<TemplatesRepository, 'find'>;
  segments: Pick<SegmentsRepository, 'list'>;
  occasions: SendingParts['occasions'];
  published: SendingParts['published'];
  jobs: Jobs<SurveyJobs & CheckJobs & ImpactJobs & { fill: Job<FillTask, FilledMail | null> }>;
  rules: Pick<RulesService, 'task'>;
  shapes: ShopShapes;
  now: () => Date;
  self: () => string;
  token?: string | undefined;
}

/** What else is told of a survey, and who waits for it. */
interface SurveyHow {
  /** Whether each person’s mail is told by a number; with an instant (ISO 8601), also as it would be then. */
  digests?: boolean | string;
  /** Nobody waits for it. */
  aside?: boolean;
}

/** Figures of people who have nobody in common; the same template decides alike. */
const addSurveys = (a: Survey, b: Survey): Survey => ({
  ...addFigures(a, b),
  decisions: a.decisions,
});

const LABELS = Object.fromEntries(CHECKS.map(({ name, label }) => [name, label]));

/** A whole audience is filled so many people at a time: between them, others get their turn. */
const WHOLE_PIECE = 4_000;
const MOST_VARIANTS = 50;
const LINK_MILLISECONDS = 8_000;
const LINK_BYTES = 10_000_000;

/** What everyone gets: variants, checks and the impact of edits, over a whole audience. */
export class SurveyService {
  constructor(private readonly given: Given) {}

  private template(document: unknown, shop: string): Template {
    const template = templateOrRefuse(document);
    if (template.shop !== shop)
      throw new Refusal(
        422,
        `This template belongs to the shop “${template.shop}”, not to this one.`,
      );
    return template;
  }

  private sure<T>(answer: T | null): T {
    if (answer === null) throw new Refusal(404, 'The shop of this template no longer exists.');
    return answer;
  }

  /** A segment or an occasion that is gone is nobody’s audience: that is said, and nobody is taken for nobody. */
  private sureOf(shop: string, audience: AudienceAsked): AudienceChoice {
    if (audience.of === 'occasion') {
      const found = this.given.occasions.find(audience.occasion);
      const sending = found?.shop === shop ? sendingOf(this.given, audience.occasion) : null;
      if (!sending) throw new Refusal(422, 'This occasion no longer exists, or it sends nothing.');
      return { of: 'whom', whom: sending.whom };
    }
    if (audience.of !== 'segment') return audience;
    const { name } = audience;
    if (!this.given.segments.list(shop).some((segment) => segment.name === name))
      throw new Refusal(422, `The segment “${name}” no longer exists. Choose another audience.`);
    return audience;
  }

  private common(template: Template) {
    const { now, rules } = this.given;
    const asksPicks = dataRead(templateSites(template)).includes('picks');
    return { now: now().toISOString(), picks: rules.task(template.shop, asksPicks) };
  }

  private async inParts<T>(shop: string, piece: Piece, run: (ids: number[]) => Promise<T | null>) {
    const done = await inParts(this.given.people, shop, piece, run);
    return { ...done, parts: done.parts.map((part) => this.sure(part)) };
  }

  async survey(
    shop: string,
    { template: document, audience: asked, ...piece }: Body<'survey'>,
    { digests = false, aside = false }: SurveyHow = {},
  ) {
    const template = this.template(document, shop);
    const audience = this.sureOf(shop, asked);
    const common = { template, audience, digests, ...this.common(template) };
    const job = aside ? 'surveyAside' : piece.most <= FEW ? 'surveyFew' : 'survey';
    const { parts, ...rest } = await this.inParts(shop, piece, (ids) =>
      this.given.jobs.run(job, { ...common, ids }),
    );
    return { survey: parts.reduce(addSurveys), ...rest };
  }

  async impact(shop: string, { before, after_edit, audience: asked, ...piece }: Body<'impact'>) {
    const both = { before: this.template(before, shop), template: this.template(after_edit, shop) };
    const audience = this.sureOf(shop, asked);
    const common = { ...both, audience, ...this.common(both.template) };
    const { parts, ...rest } = await this.inParts(shop, piece, (ids) =>
      this.given.jobs.run('impact', { ...common, ids }),
    );
    return { impact: parts.reduce(addImpact), ...rest };
  }

  async check(shop: string, asked: Body<'checkTemplate'>): Promise<Answer<'checkTemplate'>> {
    const { jobs, shapes, now } = this.given;
    const findings = await jobs.run('checkTemplate', {
      ...{ template: this.template(asked.template, shop), id: asked.template_id ?? null },
      ...{ survey: asked.survey, shape: await shapes.of(shop), now: now().toISOString() },
    });
    return { findings, labels: LABELS };
  }

  private asked({ template, template_id }: Body<'checkWhole'>): Template {
    if (template !== undefined) return templateOrRefuse(template);
    if (template_id === undefined)
      throw new Refusal(400, 'Say what to check: “template” or “template_id”.');
    const stored = this.given.templates.find(template_id);
    if (!stored) throw new Refusal(404, `There is no template “${template_id}”.`);
    return stored.template as Template;
  }

  /** Fills a template for everybody that it is for, and checks it. */
  async whole(asked: Body<'checkWhole'>): Promise<Answer<'checkWhole'>> {
    const template = this.asked(asked);
    const { survey, findings } = await this.wholeOf(
      template,
      asked.template_id ?? null,
      asked.audience,
    );
    const usual = usualBits(survey.variants, survey.decisions.length);
    const nameOf = nodeNames(template);
    return {
      people: survey.people,
      variants: largestFirst(survey.variants)
        .slice(0, MOST_VARIANTS)
        .map((one) => ({
          words: sayVariant(one, usual, survey.decisions, nameOf),
          ...{ people: one.people, person: one.person },
        })),
      findings,
    };
  }

  private async wholeSurvey(
    template: Template,
    audience: AudienceAsked,
    how?: SurveyHow,
  ): Promise<Survey> {
    let whole: Survey | null = null;
    for (let after: number | null = 0; after !== null;) {
      const asked = { template, audience, after, most: WHOLE_PIECE };
      const piece = await this.survey(template.shop, asked, how);
      whole = whole ? addSurveys(whole, piece.survey) : piece.survey;
      after = piece.next;
    }
    return this.sure(whole);
  }

  /** A template filled for its whole audience, and what the checks say of that. */
  async wholeOf(
    template: Template,
    id: string | null,
    audience: AudienceAsked,
    how?: SurveyHow,
  ): Promise<{ survey: Survey; findings: Answer<'checkTemplate'>['findings'] }> {
    const { shop } = template;
    const { digests: told, ...survey } = await this.wholeSurvey(template, audience, how);
    const asked = { template, survey, ...(id !== null && { template_id: id }) };
    const whole = told ? { ...survey, digests: told } : survey;
    return { survey: whole, findings: (await this.check(shop, asked)).findings };
  }

  /** What holds for everybody today, of what is usually expected. */
  async propose(shop: string, asked: Body<'proposeExpectations'>) {
    const template = this.template(asked.template, shop);
    const formulas = candidates(template);
    const judged = { ...template, expectations: formulas.map((formula) => ({ formula })) };
    const survey = await this.wholeSurvey(judged, { of: 'reads' });
    const holding = formulas.filter((_, i) => survey.broken[i]?.people === 0);
    return { people: survey.people, formulas: survey.people === 0 ? [] : holding };
  }

  private async filledFor(template: Template, person: number, bounds = false): Promise<FilledMail> {
    const { now: asOf, picks } = this.common(template);
    const filled = await this.given.jobs.run('fill', { template, person, asOf, picks, bounds });
    if (!filled) throw new Refusal(404, 'This recipient no longer exists. Choose another.');
    return filled;
  }

  async filled(shop: string, asked: Body<'fillDraft'>): Promise<Answer<'fillDraft'>> {
    const template = this.template(asked.template, shop);
    const { mail, held, cut } = await this.filledFor(template, asked.person, asked.bounds);
    const { from, subject, preview_text, html, text } = mail;
    return { from, subject, preview_text, html, text, held, cut };
  }

  async links(shop: string, asked: Body<'askLinks'>): Promise<Answer<'askLinks'>> {
    const { self, token } = this.given;
    const template = this.template(asked.template, shop);
    const { mail } = await this.filledFor(template, asked.person, true);
    const rules = {
      ...{ ...FETCH_LIMITS, maxMilliseconds: LINK_MILLISECONDS, maxBytes: LINK_BYTES },
      ...{ self: self(), token },
    };
    const isOwn = (address: string) => /\/mail\/(?:unsubscribe|preferences|view)/.test(address);
    return { links: await askLinks(mail, rules, isOwn) };
  }
}
