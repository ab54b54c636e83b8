import type { AnswerOf, AudienceChoice, BodyOf, ENDPOINTS } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import { largestFirst, sayVariant, usualBits, type Survey } from '@carafe/core/variant';
import { nodeNames } from '@carafe/core/template';
import { FETCH_LIMITS } from '../fetch/fetchAddress';
import { Refusal } from '../http/errors';
import type { Job, Jobs } from '../jobs/jobs';
import type { RulesService } from '../recommend/service';
import type { FilledMail, FillTask } from '../render/fillFor';
import type { ShopShapes } from '../shops/shapes';
import { templateOrRefuse } from '../templates/service';
import type { TemplatesRepository } from '../templates/repository';
import { askLinks } from './askLinks';
import type { CheckJobs } from './checkTemplate';
import type { ImpactJobs } from './impactSome';
import type { SurveyJobs } from './surveySome';

type Body<K extends keyof typeof ENDPOINTS> = BodyOf<(typeof ENDPOINTS)[K]>;
type Answer<K extends keyof typeof ENDPOINTS> = AnswerOf<(typeof ENDPOINTS)[K]>;

interface Given {
  templates: Pick<TemplatesRepository, 'find'>;
  jobs: Jobs<SurveyJobs & CheckJobs & ImpactJobs & { fill: Job<FillTask, FilledMail | null> }>;
  rules: Pick<RulesService, 'task'>;
  shapes: ShopShapes;
  now: () => Date;
  self: () => string;
  token?: string | undefined;
}

const MOST_VARIANTS = 50;
const LINK_MILLISECONDS = 8_000;
const LINK_BYTES = 10_000_000;

/** What everyone gets: variants, checks and the impact of edits, over a whole audience. */
export class SurveyService {
  constructor(private readonly given: Given) {}

  private template(document: unknown, shop: string): Template {
    const template = templateOrRefuse(document);
    if (template.shop !== shop)
      throw new Refusal(422, `This template speaks for “${template.shop}”, not for this shop.`);
    return template;
  }

  private sure<T>(answer: T | null): T {
    if (answer === null) throw new Refusal(404, 'The shop of this template is not there any more.');
    return answer;
  }

  private common(shop: string) {
    const { now, rules } = this.given;
    return { now: now().toISOString(), picks: rules.task(shop) };
  }

  async survey(shop: string, { template: document, ...piece }: Body<'survey'>) {
    const template = this.template(document, shop);
    return this.sure(
      await this.given.jobs.run('survey', { template, ...piece, ...this.common(shop) }),
    );
  }

  async impact(shop: string, { before, after_edit, ...piece }: Body<'impact'>) {
    return this.sure(
      await this.given.jobs.run('impact', {
        ...{ before: this.template(before, shop), template: this.template(after_edit, shop) },
        ...{ ...piece, ...this.common(shop) },
      }),
    );
  }

  async check(shop: string, asked: Body<'checkTemplate'>): Promise<Answer<'checkTemplate'>> {
    const { jobs, shapes, now } = this.given;
    const findings = await jobs.run('checkTemplate', {
      ...{ template: this.template(asked.template, shop), id: asked.template_id ?? null },
      ...{ survey: asked.survey, shape: await shapes.of(shop), now: now().toISOString() },
    });
    return { findings };
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

  async wholeOf(
    template: Template,
    id: string | null,
    audience: AudienceChoice,
  ): Promise<{ survey: Survey; findings: Answer<'checkTemplate'>['findings'] }> {
    const { jobs, shapes } = this.given;
    const shape = await shapes.of(template.shop);
    return this.sure(
      await jobs.run('checkWhole', {
        ...{ template, id, shape, audience, ...this.common(template.shop) },
      }),
    );
  }

  private async filledFor(template: Template, person: number, bounds = false): Promise<FilledMail> {
    const { jobs, rules, now } = this.given;
    const filled = await jobs.run('fill', {
      ...{ template, person, asOf: now().toISOString(), picks: rules.task(template.shop), bounds },
    });
    if (!filled) throw new Refusal(404, 'This recipient is not there any more. Choose another.');
    return filled;
  }

  async filled(shop: string, asked: Body<'fillDraft'>): Promise<Answer<'fillDraft'>> {
    const template = this.template(asked.template, shop);
    const { mail, held } = await this.filledFor(template, asked.person);
    const { from, subject, preview_text, html, text } = mail;
    return { from, subject, preview_text, html, text, held };
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
