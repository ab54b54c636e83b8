import { z } from 'zod';

const KINDS: Record<string, string> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'a record',
  record: 'a record',
  date: 'a date',
};

/** How much is too much, or too little, of what. */
function bound(word: 'most' | 'least', origin: string, figure: string): string {
  switch (origin) {
    case 'string':
      return `This has at ${word} ${figure} characters.`;
    case 'array':
    case 'set':
      return `At ${word} ${figure} can stand here.`;
    default:
      return `This is at ${word} ${figure}.`;
  }
}

const figures = new Intl.NumberFormat('en-GB');

/** What is wrong, in a sentence of its own; the place is told beside it. */
function sentence(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      if (issue.input === undefined) return 'This is missing.';
      return `This must be ${KINDS[issue.expected] ?? issue.expected}.`;
    case 'too_big':
      return bound('most', issue.origin, figures.format(issue.maximum));
    case 'too_small':
      if (issue.origin === 'string' && issue.minimum === 1) return 'This must not be empty.';
      return bound('least', issue.origin, figures.format(issue.minimum));
    case 'unrecognized_keys':
      return `“${issue.keys.join('”, “')}” ${issue.keys.length === 1 ? 'is' : 'are'} not known here.`;
    case 'invalid_value':
      return `This must be ${issue.values.map(String).join(', ')}.`.replace(/, ([^,]*)$/, ' or $1');
    case 'invalid_union':
      return 'This is of no kind that is known here.';
    case 'invalid_format':
      return FORMATS[issue.format] ?? 'This is not written as it must be.';
    default:
      return 'This cannot stand here.';
  }
}

const FORMATS: Record<string, string> = {
  datetime: 'This must be a time with its offset, such as 2026-03-31T09:00:00Z.',
  date: 'This must be a date such as 2026-03-31.',
  url: 'This must be a web address.',
  email: 'This must be an email address.',
};

/** Lets every validation say what is wrong in plain sentences. Schemas with words of their own keep them. */
export function plainErrors(): void {
  z.config({ customError: sentence });
}
