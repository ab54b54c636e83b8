import {
  comparisonNamed,
  formulaSentence,
  isMembers,
  isSentence,
  type Clause,
  type Sentence,
} from '../sentence';
import { fieldWords } from '../shape';
import { sayWeekdays } from './clockTime';
import { sayDuration, sayEvery } from './duration';
import type { Occasion, Step } from './occasion';
import type { ShopRules } from './shopRules';
import { startKind } from './starts';

/** What names stand for: templates by id. */
export interface Names {
  template: (id: string) => string;
}

/** Fields that an occasion adds, as they are said. */
const OWN: Readonly<Record<string, readonly [yes: string, no: string]>> = {
  'occasion.ordered_since': ['they ordered since', 'they have not ordered since'],
  'occasion.opened': ['they opened one of its emails', 'they opened none of its emails'],
  'occasion.clicked': [
    'they clicked a link in one of its emails',
    'they clicked no link in its emails',
  ],
  'occasion.cart_changed': ['the cart changed since', 'the cart has not changed since'],
};

const sayPath = (path: string): string => path.split('.').map(fieldWords).join(' ');

function sayClause({ field, comparison, values }: Clause): string {
  const own = OWN[field];
  if (own && (comparison === 'yes' || comparison === 'no'))
    return own[comparison === 'yes' ? 0 : 1];
  const known = comparisonNamed(comparison);
  const counted = /^count\((.*)\)$/.exec(field);
  const name = sayPath((counted?.[1] ?? field).replace(/^person\./, ''));
  const subject = counted ? `how many ${name}` : name;
  return [subject, known?.words ?? '', values.join(', '), known?.after ?? '']
    .filter((part) => part !== '')
    .join(' ');
}

const MEMBERS = { any: 'at least one of', every: 'every one of', none: 'none of' };

function sayPart(part: Sentence['parts'][number]): string {
  if (isSentence(part)) return `(${saySentence(part)})`;
  if (!isMembers(part)) return sayClause(part);
  const { how, list, where } = part;
  const said = saySentence(where);
  const whole = where.parts.length > 1 ? `(${said})` : said;
  return `for ${MEMBERS[how]} ${sayPath(list)} ${whole}`;
}

function saySentence({ of, parts }: Sentence): string {
  const said = parts.map(sayPart);
  const joined = said.join(of === 'all' ? ' and ' : ' or ');
  return of === 'none' ? `neither ${said.join(' nor ')}` : joined;
}

/** A condition in words: “cart count is at least 2”; the formula itself where no sentence says it. */
export function sayFormula(formula: string): string {
  const sentence = formulaSentence(formula);
  return sentence && sentence.parts.length > 0 ? saySentence(sentence) : formula;
}

/** How an occasion begins: “When a cart has been quiet for 1 hour”. */
export const sayStart = ({ start }: Occasion, rules: ShopRules): string =>
  startKind(start.kind).say(start, rules);

/** Whom it is for, in words; null for everybody. */
export function sayWhom({ whom }: Occasion): string | null {
  const parts = [
    whom.segment ? `in “${whom.segment}”` : '',
    whom.without ? `not in “${whom.without}”` : '',
    whom.where?.trim() ? `where ${sayFormula(whom.where)}` : '',
    whom.guests ? '' : 'who are not guests',
    whom.addresses && whom.addresses.length > 0
      ? `with one of ${whom.addresses.length} addresses`
      : '',
    whom.rest_days
      ? `who have not received it within ${whom.rest_days} ${whom.rest_days === 1 ? 'day' : 'days'}`
      : '',
  ].filter((part) => part !== '');
  return parts.length === 0 ? null : `For people ${parts.join(', ')}`;
}

const MODES = { off: ' (switched off)', held: ', held for approval', on: '' };

/** A step as a sentence. */
export function sayStep(step: Step, names: Names): string {
  switch (step.kind) {
    case 'wait':
      return step.until
        ? `Wait until ${step.until.time}${step.until.days && step.until.days.length > 0 ? `, ${sayWeekdays(step.until.days)}` : ''}`
        : `Wait ${sayDuration(step.for ?? { n: 0, unit: 'minutes' })}`;
    case 'guard': {
      const when = `Only if ${sayFormula(step.when)}`;
      if (step.otherwise === 'stop') return `${when}; else stop`;
      if (step.otherwise === 'skip') return `${when}; else skip the next email`;
      return `${when}; else ask again ${sayEvery(step.every ?? { n: 1, unit: 'days' })}, for ${sayDuration(step.up_to ?? { n: 7, unit: 'days' })} at most`;
    }
    case 'branch':
      return step.ways.map((way) => `If ${sayFormula(way.when)}`).join('; or ');
    case 'send': {
      const what = step.template === '' ? 'an email' : `“${names.template(step.template)}”`;
      return `${step.to === 'owner' ? `Tell the owner with ${what}` : `Send ${what}`}${MODES[step.mode]}`;
    }
  }
}
