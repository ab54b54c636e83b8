/** @jest-environment jsdom */
import { cleanPasted, onOneLine, weightOfPaste } from './paste';

const word = (level: number, bullet: string, text: string) =>
  `<p class="MsoListParagraph" style="margin-left:36pt;mso-list:l0 level${level} lfo1"><!--[if !supportLists]--><span style="mso-list:Ignore">${bullet}<span>&nbsp; </span></span><!--[endif]-->${text}<o:p></o:p></p>`;
const tight = (html: string) =>
  html
    .replace(/<!--.*?-->/g, '')
    .replace(/<o:p><\/o:p>/g, '')
    .replace(/>\s+</g, '><');

describe('what is pasted from a word processor', () => {
  test('lines that it means as a list become one, nested by their levels', () => {
    const { html, dropped } = cleanPasted(
      `<html><body><p>Before</p>${word(1, '·', 'Pots')}${word(2, 'o', 'of <b>clay</b>')}${word(2, 'o', 'of zinc')}${word(1, '·', 'Seeds')}<p>Between</p>${word(1, '1.', 'Sow')}${word(1, '2.', 'Water')}</body></html>`,
    );
    expect(tight(html)).toBe(
      '<p>Before</p><ul><li><p>Pots</p><ul><li><p>of <b>clay</b></p></li><li><p>of zinc</p></li></ul></li><li><p>Seeds</p></li></ul><p>Between</p><ol><li><p>Sow</p></li><li><p>Water</p></li></ol>',
    );
    expect(dropped).toEqual([]);
  });

  test('a list that begins on a deeper level is no trouble', () => {
    const { html } = cleanPasted(word(3, '-', 'Deep') + word(1, '-', 'High'));
    expect(tight(html).replace(/<\/?(?:ul|li)>/g, '')).toBe('<p>Deep</p><p>High</p>');
  });

  test('tables become lines, pictures and headings are told', () => {
    const { html, dropped } = cleanPasted(
      '<h2>Prices</h2><table><tr><th>Pot</th><th>Price</th></tr><tr><td><p>Long Tom</p></td><td>£4 <i>each</i></td></tr><tr><td></td></tr></table><p>x<img src="a.png"></p>',
    );
    expect(html).toBe(
      '<p><strong>Prices</strong></p><p>Pot · Price</p><p>Long Tom  · £4 <i>each</i></p><p>x</p>',
    );
    expect(dropped).toEqual([
      'Tables became lines.',
      'Pictures were left out. Add a picture block for each one.',
      'Headings became bold lines. Use heading blocks for them.',
    ]);
  });

  test('nothing of a script comes along', () => {
    expect(cleanPasted('<script>x()</script><style>p{}</style><p>a</p>').html).toBe('<p>a</p>');
  });
});

test('into one line, breaks become spaces; much of it is told', () => {
  expect(onOneLine(' a\r\n\n b\nc ')).toBe('a b c');
  expect(weightOfPaste('short')).toBeNull();
  expect(weightOfPaste('é'.repeat(60_000))).toMatch(
    /^60,000 characters were pasted, about 120 KB\./,
  );
});
