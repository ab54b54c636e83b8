import type { Template } from '@carafe/core/template';
import type { PublishedRepository } from './publishedRepository';
import type { TemplatesRepository } from './repository';
import { unlessDamaged } from '../database/storedDocument';

export interface UserParts {
  templates: Pick<TemplatesRepository, 'list'>;
  published: Pick<PublishedRepository, 'last' | 'document'>;
}

/** A template that uses something, as it is called where that is told. */
export interface User {
  id: string;
  name: string;
}

/**
 * Who uses what of some things that templates name, by those names: templates of a shop (of all where it is null) as they are
 * worked on, or else as they are sent, which is said in the name.
 */
export function usersByName(
  { templates, published }: UserParts,
  shop: string | null,
  namesIn: (template: Template) => Iterable<string>,
): Map<string, User[]> {
  const users = new Map<string, User[]>();
  const add = (used: string, user: User) => users.set(used, [...(users.get(used) ?? []), user]);
  for (const { id, template } of templates.list()) {
    const draft = template as Template;
    const { name } = draft;
    if (shop !== null && draft.shop !== shop) continue;
    const own = new Set(namesIn(draft));
    for (const used of own) add(used, { id, name });
    const sent = unlessDamaged(() => published.document(id, published.last(id)));
    for (const used of new Set(sent ? namesIn(sent) : []))
      if (!own.has(used)) add(used, { id, name: `${name} (published version)` });
  }
  return users;
}

/** The templates that use one thing. */
export const usersAmong = (
  parts: UserParts,
  shop: string | null,
  uses: (template: Template) => boolean,
): User[] => usersByName(parts, shop, (template) => (uses(template) ? [''] : [])).get('') ?? [];
