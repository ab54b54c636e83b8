import { fieldLabel } from '../shape';
import { comparisonNamed } from './comparisons';
import { formulaSentence, isMembers, isSentence, type Part, type Sentence } from './sentence';

const HOW = { any: 'at least one of', every: 'each of', none: 'none of' } as const;

/** A path in the midst of words: “mail subject”, “how many cart lines”, “the length of mail subject”. */
function sayField(path: string): string {
  const [, call, of] = /^(count|length)\((.+)\)$/.exec(path) ?? [];
  const label = fieldLabel(of ?? path).toLowerCase();
  if (call === 'count') return `the number of ${label}`;
  return call === 'length' ? `the length of ${label}` : label;
}

function sayPart(part: Part): string {
  if (isSentence(part)) return `(${saySentence(part)})`;
  if (isMembers(part))
    return `for ${HOW[part.how]} ${sayField(part.list)}: ${saySentence(part.where)}`;
  const { field, comparison, values } = part;
  const known = comparisonNamed(comparison);
  const value = known?.wants === 'nothing' ? [] : values.map((one) => `“${one}”`);
  const said = known?.wants === 'number' || known?.wants === 'days' ? values : value;
  return [sayField(field), known?.words, said.join(' or '), known?.after].filter(Boolean).join(' ');
}

/** A sentence in words, as a list or a finding says it. */
export function saySentence({ of, parts }: Sentence): string {
  const said = parts.map(sayPart).join(of === 'all' ? ' and ' : ' or ');
  return of === 'none' ? `not ${parts.length > 1 ? `(${said})` : said}` : said;
}

/** A condition in words, with a capital; null where no sentence says it. */
export function sayFormula(formula: string): string | null {
  const sentence = formulaSentence(formula);
  if (!sentence || sentence.parts.length === 0) return null;
  const words = saySentence(sentence);
  return words.charAt(0).toUpperCase() + words.slice(1);
}
