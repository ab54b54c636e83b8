import type { Published, PublishedVersion } from '@carafe/contract';
import type { Built } from '@carafe/core/build';
import type { Template } from '@carafe/core/template';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { Job, Jobs } from '../jobs/jobs';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import type { LiveUpdates } from '../live/liveUpdates';
import { carriedAddress } from '../mail/address';
import type { SurveyService } from '../survey/service';
import type { PublishedRepository } from './publishedRepository';
import type { TemplatesRepository } from './repository';

interface Given extends LibraryParts {
  store: Pick<Store, 'write'>;
  templates: Pick<TemplatesRepository, 'find'>;
  published: PublishedRepository;
  jobs: Jobs<{ build: Job<Template, Built> }>;
  updates: LiveUpdates;
  surveys: Pick<SurveyService, 'wholeOf'>;
  now: () => Date;
}

/** What is published of a template stands apart from its draft, each version whole. */
export class Publishing {
  constructor(private readonly given: Given) {}

  private draft(id: string) {
    const stored = this.given.templates.find(id);
    if (!stored) throw new Refusal(404, 'There is no such template; perhaps it was deleted.');
    return stored;
  }

  list(id: string): Published[] {
    this.draft(id);
    return this.given.published.list(id);
  }

  version(id: string, number: number): PublishedVersion {
    const template = this.given.published.document(id, number);
    const found = this.list(id).find((one) => one.number === number);
    if (!template || !found)
      throw new Refusal(404, 'This template has no published version with that number.');
    return { ...found, template };
  }

  /** Publishes the draft as it is at a version; a newer draft, and one that cannot be read, is refused. */
  async publish(
    id: string,
    {
      version,
      note,
      despite = '',
    }: { version: number; note: string; despite?: string | undefined },
  ): Promise<Published> {
    const { store, published, jobs, updates, now } = this.given;
    const template = this.draft(id).template as Template;
    const { findings, program } = await jobs.run('build', expandedOf(this.given, template));
    const errors = findings.filter(({ severity }) => severity === 'error');
    const [first] = errors;
    if (first)
      throw new Refusal(
        422,
        `This cannot be published yet. ${first.message}${errors.length > 1 ? ` And ${errors.length - 1} more.` : ''}`,
      );
    const { fromEmail } = program;
    if (carriedAddress(fromEmail) === null)
      throw new Refusal(
        422,
        `This cannot be published yet. ${fromEmail === '' ? 'The envelope has no sender’s address.' : `The sender’s address “${fromEmail.slice(0, 80)}” is not a valid email address.`} Set it in the envelope, under From.`,
      );
    if (despite === '') await this.expectAll(template, id);
    const made = await store.write(() => {
      if (this.draft(id).version !== version)
        throw new Refusal(
          409,
          'The template was changed in the meantime. Check it again, then publish.',
        );
      // Whoever publishes the same draft once more, as from another window, made that version already.
      const last = published.last(id);
      const known = published.list(id).find(({ number }) => number === last);
      if (known && JSON.stringify(published.document(id, last)) === JSON.stringify(template))
        return known;
      const why = despite === '' ? '' : `Published anyway: ${despite}`;
      const said = [note, why].filter((words) => words !== '').join(' · ');
      const one = { number: published.last(id) + 1, at: now().toISOString(), note: said };
      published.insert(id, one, template);
      return one;
    });
    updates.publish({ type: 'template', id });
    return made;
  }

  /** What is expected of every mail holds for everybody that the template is for, or it takes a reason. */
  private async expectAll(template: Template, id: string): Promise<void> {
    if ((template.expectations ?? []).length === 0) return;
    const { findings } = await this.given.surveys.wholeOf(template, id, { of: 'reads' });
    const broken = findings.filter(({ check }) => check === 'expectations');
    const [first] = broken;
    if (first)
      throw new Refusal(
        428,
        `${first.message}${broken.length > 1 ? ` And ${broken.length - 1} more.` : ''} Fix it, or give a reason for publishing anyway.`,
      );
  }
}
