import { sendsOf, whomAsks, type WhomAsks } from '@carafe/core/occasion';
import type { Template } from '@carafe/core/template';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { TemplatesRepository } from '../templates/repository';
import type { OccasionsRepository } from './repository';
import type { SegmentsRepository } from './segmentsRepository';

export interface SendingParts {
  occasions: Pick<OccasionsRepository, 'find'>;
  segments: Pick<SegmentsRepository, 'list'>;
  templates: Pick<TemplatesRepository, 'find'>;
  published: Pick<PublishedRepository, 'last' | 'document'>;
}

/** The mail of an occasion’s draft to its people: as it is published, else as it is. */
export interface Sending {
  template_id: string;
  template: Template;
  whom: WhomAsks;
}

/** What an occasion sends first, and to whom: of marketing, to those who agreed. Null where it sends nothing. */
export function sendingOf(
  { occasions, segments, templates, published }: SendingParts,
  id: string,
): Sending | null {
  const found = occasions.find(id);
  if (!found) return null;
  const [send] = sendsOf(found.occasion).filter(({ to }) => to === 'person');
  const stored = send && templates.find(send.template);
  if (!send || !stored) return null;
  const template_id = send.template;
  const template = published.document(template_id, published.last(template_id)) ?? stored.template;
  const whom = whomAsks(found.occasion.whom, segments.list(found.shop));
  if (send.mail === 'marketing') whom.asks.push({ formula: 'person.consent', is: true });
  return { template_id, template: template as Template, whom };
}
