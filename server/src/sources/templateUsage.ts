import { fieldsRead } from '@carafe/core/check';
import { targetOf } from '@carafe/core/intake';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import { usersByName, type UserParts } from '../templates/users';
import type { Source } from './repository';

/**
 * The templates that read what a source feeds, with the fields that each names: as they are worked on, and as they are sent where that is
 * another.
 */
export function templateUsage(
  parts: UserParts,
  { target, formula_name, shop }: Source,
): { id: string; name: string; fields: string[] }[] {
  const paths = targetOf(target).paths(formula_name);
  const readBy = (template: Template) => fieldsRead(templateSites(template), paths);
  // Blank stands for reading any of it.
  const users = usersByName(parts, shop, (template) => {
    const fields = readBy(template);
    return fields === null ? [] : ['', ...fields];
  });
  return (users.get('') ?? []).map(({ id, name }) => ({
    ...{ id, name },
    fields: [...users]
      .flatMap(([field, by]) => (field !== '' && by.some((one) => one.id === id) ? [field] : []))
      .sort(),
  }));
}
