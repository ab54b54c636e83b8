import { fieldLabel } from './labels';
import type { FieldPath } from './paths';
import { NUMBER, TEXT, type Field } from './shape';

/** Of a first member these are asked for. */
const USUAL = ['name', 'title', 'image', 'url', 'link', 'price', 'sku'];
const MOST_FIELDS = 4;

/** What a member of a list of records is called by. */
const calledBy = (fields: Record<string, Field>) =>
  ['name', 'title'].find((name) => Object.hasOwn(fields, name));

/**
 * What can be taken of a list where a single value is wanted: how many it has, the first of them, all
 * joined with commas. Any other field is taken as it is.
 */
export function singleValues(path: FieldPath): FieldPath[] {
  const { path: list, field, group } = path;
  const { shape } = field;
  if (shape.kind !== 'list') return [path];
  const label = path.label ?? fieldLabel(list);
  const made = (formula: string, words: string, of: Partial<Field>): FieldPath => ({
    path: formula,
    label: words,
    group,
    field: { ...field, samples: [], ...of },
  });
  const count = made(`count(${list})`, `How many ${label.toLowerCase()}`, { shape: NUMBER });
  const member = shape.of;
  if (member.kind === 'record') {
    const name = calledBy(member.fields);
    const scalars = Object.entries(member.fields).filter(
      ([, { shape: inside }]) => inside.kind !== 'record' && inside.kind !== 'list',
    );
    const usual = scalars.filter(([one]) => USUAL.includes(one));
    const firsts = (usual.length > 0 ? usual : scalars.slice(0, MOST_FIELDS)).map(([one, inside]) =>
      made(`first(${list}).${one}`, `First of ${label.toLowerCase()}: ${one}`, {
        shape: inside.shape,
        samples: inside.samples,
      }),
    );
    const joined =
      name === undefined
        ? []
        : [made(`join(${list}, ${name})`, `${label}, joined with commas`, { shape: TEXT })];
    return [count, ...joined, ...firsts];
  }
  return [
    made(`join(${list})`, `${label}, joined with commas`, { shape: TEXT }),
    made(`first(${list})`, `First of ${label.toLowerCase()}`, { shape: member }),
    count,
  ];
}
