import { build } from '@carafe/core/build';
import { catalogNeeds, dataRead, rootsRead } from '@carafe/core/check';
import type { Products } from '@carafe/core/record';
import { prepare, type Render } from '@carafe/core/render';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { expandedOf, type LibraryParts } from '../library/shopLibrary';
import { productsBySku } from '../shops/productsBySku';
import { carriedAddress } from '../mail/address';
import { sharedDataOf, type SharedParts } from '../shops/sharedData';
import { heldFor, type TemplateHealthRepository } from '../templates/healthRepository';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { TemplatesRepository } from '../templates/repository';

/** A mail does not go, for good; the message says why. */
export class Stop extends Error {}
/** Not now: it waits for somebody to approve it. */
export class Hold extends Error {}

export type PublishedParts = SharedParts &
  LibraryParts & {
    templates: Pick<TemplatesRepository, 'has'>;
    published: Pick<PublishedRepository, 'last' | 'document'>;
    templateHealth: Pick<TemplateHealthRepository, 'held'>;
  };

/** A template as it was published, made ready to be filled. */
export interface PublishedTemplate {
  number: number;
  /** With what it has from the library. */
  template: Template;
  render: Render;
  /** As mail servers carry it; blank where it is none. */
  fromEmail: string;
  shared: ReturnType<typeof sharedDataOf>;
  products: Products;
  /** Whether it shows what rules pick. */
  picks: boolean;
  /** The parts of the record that its mails are filled from. */
  reads: ReadonlySet<string>;
}

/** Makes what is published of a template ready; a Stop or a Hold says why its mails do not go. */
export async function publishedTemplate(
  parts: PublishedParts,
  id: string,
  now: Date,
): Promise<PublishedTemplate> {
  if (!parts.templates.has(id)) throw new Stop('Its template was deleted.');
  const held = parts.templateHealth.held(id);
  if (held !== null) throw new Hold(heldFor(held));
  const number = parts.published.last(id);
  const document = parts.published.document(id, number);
  if (!document) throw new Stop('Its template was never published.');
  const template: Template = expandedOf(parts, document);
  const sites = templateSites(template);
  const { program } = await build(template);
  const shared = sharedDataOf(parts, template.shop, now, catalogNeeds(sites));
  return {
    ...{ number, template },
    render: prepare(program, { trail: true, products: true }),
    fromEmail: carriedAddress(program.fromEmail) ?? '',
    ...{ shared, products: shared ? productsBySku(parts, template.shop, shared) : new Map() },
    picks: dataRead(sites).includes('picks'),
    reads: rootsRead(sites),
  };
}
