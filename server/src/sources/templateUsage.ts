import { fieldsRead } from '@carafe/core/check';
import { targetOf } from '@carafe/core/intake';
import { templateSites } from '@carafe/core/site';
import type { Template } from '@carafe/core/template';
import type { TemplatesRepository } from '../templates/repository';
import type { Source } from './repository';

/** The templates that read what a source feeds, with the fields that each names. */
export function templateUsage(
  templates: Pick<TemplatesRepository, 'list'>,
  { target, formula_name, shop }: Source,
): { id: string; name: string; fields: string[] }[] {
  const paths = targetOf(target).paths(formula_name);
  return templates.list().flatMap(({ id, template: stored }) => {
    const template = stored as Template;
    if (shop !== null && template.shop !== shop) return [];
    const fields = fieldsRead(templateSites(template), paths);
    return fields === null ? [] : [{ id, name: template.name, fields }];
  });
}
