import type { BuildFinding } from '../build';
import { sayBound, type Cut } from '../render';
import type { Template } from '../template/schema';
import { nameOf } from './ask';

const WAY_OUT = 'Show fewer members of its lists, or shorten its texts.';

/** Where a mail is cut off: “ at “Lines””; nothing where it cannot be told. */
function sayPlace(template: Template, node: string): string {
  return node === '' ? '' : ` at “${nameOf(template, node)}”`;
}

/** That one mail is cut off, where, why, and what to do. */
export function sayCut(template: Template, { by, node }: Cut): string {
  return `This email is cut off${sayPlace(template, node)}: ${sayBound(by)}. ${WAY_OUT}`;
}

/** The same of many mails: `whom` are those who would get them. */
export function sayCutFor(template: Template, { by, node }: Cut, whom: string): string {
  return `The email is cut off${sayPlace(template, node)} for ${whom}: ${sayBound(by)}. ${WAY_OUT} Such an email does not go out.`;
}

/** The same as a finding of the mail that is looked at. */
export function cutFinding(template: Template, cut: Cut): BuildFinding {
  const { node, path } = cut;
  return { severity: 'error', node, path, message: sayCut(template, cut) };
}
