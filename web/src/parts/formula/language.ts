import { HighlightStyle, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { tags } from '@lezer/highlight';

const WORDS =
  /^(?:and|or|not|is|in|contains|starts|ends|with|where|otherwise|filled|empty|true|false|missing)(?![\p{L}\p{Nd}_])/u;

/** The formula language for an editor: what it is made of, for colours; what it means, the checker says. */
const formulaLanguage = StreamLanguage.define({
  name: 'formula',
  token(stream) {
    if (stream.eatSpace()) return null;
    if (stream.match(/^"(?:[^"\\]|\\.)*"?/)) return 'string';
    if (stream.match(/^\d+(?:\.\d+)?/)) return 'number';
    if (stream.match(WORDS)) return 'keyword';
    if (stream.match(/^[\p{L}_][\p{L}\p{Nd}_]*(?=\s*\()/u)) return 'function';
    if (stream.match(/^[\p{L}_][\p{L}\p{Nd}_]*/u)) return 'variableName';
    stream.next();
    return 'operator';
  },
  tokenTable: { function: tags.function(tags.variableName) },
});

const colours = HighlightStyle.define([
  { tag: tags.string, color: 'var(--quiet)' },
  { tag: tags.keyword, fontWeight: '600' },
  { tag: tags.variableName, color: 'var(--data)' },
  { tag: tags.function(tags.variableName), color: 'var(--mantine-primary-color-filled)' },
]);

export const formula = [formulaLanguage, syntaxHighlighting(colours)];
