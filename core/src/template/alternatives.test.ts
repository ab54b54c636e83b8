import { valueOf } from '../formula/testing';
import { mailOf } from '../build/testing';
import { alternativeHolds, alternativesOf, blankTemplate, composer, countedIds } from '.';
import type { Block } from './schema';

const c = composer(countedIds());
/** Up to three names for the same place. */
function place(): { block: Block; ids: string[] } {
  const [a, b, d] = [c.text('Many'), c.text('Some'), c.text('None')] as [Block, Block, Block];
  a.when = 'n > 10';
  b.when = 'n > 0';
  a.else = b;
  b.else = d;
  return { block: a, ids: [a.id, b.id, d.id] };
}

test('alternatives are found from any of them, and one of them shows', async () => {
  const { block, ids } = place();
  const template = blankTemplate('T', 's', [c.section('S', [block, c.text('After')])]);
  for (const id of ids) expect(alternativesOf(template, id).map((n) => n.id)).toEqual(ids);
  expect(alternativesOf(template, template.sections[0]?.id ?? '')).toHaveLength(1);
  const chain = alternativesOf(template, ids[0] ?? '');
  for (const [n, words] of [
    [11, 'Many'],
    [3, 'Some'],
    [0, 'None'],
  ] as const) {
    const { mail } = await mailOf(template, { n });
    expect(mail.text).toBe(`${words}\n\nAfter\n`);
    // The share that a tab tells is of those for whom it shows.
    const holds = chain.map((_, i) => valueOf(alternativeHolds(chain, i), { n }) === true);
    expect(holds.map((h, i) => (h ? ['Many', 'Some', 'None'][i] : ''))).toContain(words);
    expect(holds.filter(Boolean)).toHaveLength(1);
  }
});
