const MOST = 40;
const short = (text = '') => {
  const one = text.replace(/\s+/g, ' ').trim();
  return one.length > MOST ? `${one.slice(0, MOST)}…` : one;
};
const neverClosed = (name = '') => `<${short(name)}> is never closed; perhaps the file is cut off.`;

/** What the validator says, and what is said for it; the first that fits. */
const SAID: readonly [RegExp, (found: RegExpExecArray) => string][] = [
  [
    /^Expected closing tag '(.*)' \(opened in line (\d+), col \d+\) instead of closing tag '(.*)'/s,
    ([, opened, line, closed]) =>
      `</${short(closed)}> stands where <${short(opened)}> of line ${line ?? ''} is to be closed first.`,
  ],
  [/^Unclosed tag '(.*)'/s, ([, name]) => neverClosed(name)],
  [/^Invalid '\[.*"([^"]*)"\s*\]' found/s, ([, name]) => neverClosed(name)],
  [
    /^Closing tag '(.*)' has not been opened/s,
    ([, name]) => `</${short(name)}> closes what was never opened.`,
  ],
  [/^Closing tag '(.*?)'/s, ([, name]) => `</${short(name)} is not written as an end.`],
  [/^Tag '(.*)' is an invalid name/s, ([, name]) => `“${short(name)}” is no name of an element.`],
  [/^Invalid space after '<'/, () => 'A “<” stands alone: in words it is written as “&lt;”.'],
  [/^char '&'/, () => 'A “&” stands alone: in words it is written as “&amp;”.'],
  [/repeated/, () => 'An attribute stands twice in one element.'],
  [/^(?:boolean )?attribute/i, () => 'An attribute is not written as name="value".'],
  [/^Start tag expected/, () => 'It holds no element.'],
  [/^XML declaration/, () => '“<?xml” may stand at its very beginning alone.'],
  [
    /^(?:Multiple possible root|Extra text|char )/,
    () => 'Something stands beside its outermost element.',
  ],
];

/** What is wrong with XML, in words for the one who brings the file, for what the validator says of it. */
export function xmlProblem(said: string): string {
  for (const [pattern, say] of SAID) {
    const found = pattern.exec(said);
    if (found) return say(found);
  }
  return 'Have it written anew by what made it.';
}
