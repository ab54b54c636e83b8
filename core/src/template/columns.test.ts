import fc from 'fast-check';
import { mailOf } from '../build/testing';
import {
  blankTemplate,
  columnWidths,
  composer,
  countedIds,
  movedBorder,
  NARROWEST,
  type Section,
} from '.';

const c = composer(countedIds());

test('a border that is moved changes two columns alone, and none becomes too narrow', () => {
  fc.assert(
    fc.property(
      fc.array(fc.option(fc.integer({ min: 10, max: 20 }), { nil: undefined }), {
        minLength: 2,
        maxLength: 4,
      }),
      fc.nat(2),
      fc.integer({ min: -50, max: 150 }),
      (given, at, to) => {
        const columns = given.map((width) => ({ width }));
        const index = at % (columns.length - 1);
        const before = columnWidths(columns);
        const after = movedBorder(columns, index, to);
        const sum = (all: number[]) => all.reduce((a, b) => a + b, 0);
        expect(sum(after)).toBeCloseTo(sum(before), 0);
        after.forEach((width, i) => {
          if (i !== index && i !== index + 1) expect(width).toBe(before[i]);
          else expect(width).toBeGreaterThanOrEqual(Math.min(NARROWEST, before[i] ?? 0) - 0.11);
        });
      },
    ),
  );
});

describe('on a phone', () => {
  const withStacking = (stacking?: Section['stacking']) => {
    const section = c.section('S', [c.text('One')]) as Section;
    section.columns.push({ kind: 'column', id: 'second', blocks: [c.text('Two')] } as never);
    if (stacking) section.stacking = stacking;
    return mailOf(blankTemplate('T', 's', [section]), {});
  };
  const order = (html: string) => html.indexOf('One') < html.indexOf('Two');

  test('columns stand below each other, in their order or the last first', async () => {
    const { mail: usual } = await withStacking();
    const { mail: turned } = await withStacking('last_first');
    expect(order(usual.html)).toBe(true);
    // What comes first in the source is above on a phone; the direction puts it right beside each other.
    expect(order(turned.html)).toBe(false);
    expect(turned.html).toMatch(/direction:\s?rtl/);
    expect(turned.html).toMatch(/class="[^"]*mj-column-per-50[^"]*"[^>]*direction:\s?ltr/);
    // The text part is read as it stands on a desk.
    expect(turned.text).toBe('One\n\nTwo\n');
  });

  test('or side by side', async () => {
    const { mail } = await withStacking('beside');
    expect(mail.html).toMatch(/mj-column-per-100/);
    expect(mail.html.match(/width:\s?50%/g)?.length).toBeGreaterThanOrEqual(2);
  });
});
