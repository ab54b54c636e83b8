import { historyOf, pick, shopOf } from '.';
import { REASONS, reasonIn } from './reasons';
import { bought, nobody, people, product, rule } from './testing';

const inLanguage = (locale?: string) => shopOf(historyOf([]), [], { record: { locale } });

test('a reason is in the language of the shop, whatever its region; in English where that is not known', () => {
  expect(reasonIn(inLanguage('de-AT'), 'newest')).toBe('Neu im Sortiment');
  expect(reasonIn(inLanguage('fr'), 'like', 'Pot')).toBe('Semblable à : Pot');
  for (const shop of [inLanguage('xx'), inLanguage()])
    expect(reasonIn(shop, 'like', 'Pot')).toBe('Like Pot');
  expect(reasonIn(inLanguage('en'), 'like', '$& pot')).toBe('Like $& pot');
});

test('in each language a reason names what the English one names', () => {
  for (const reasons of Object.values(REASONS))
    for (const [name, words] of Object.entries(reasons))
      expect([name, words.includes('{name}')]).toEqual([
        name,
        REASONS['en']?.[name as 'like'].includes('{name}'),
      ]);
});

test('a product that no catalog has any more is named as orders named it', () => {
  const others = ['v', 'w'].map((one) => bought(one, 'b'));
  const historyWith = (name: object) =>
    historyOf(
      people([
        ...['x', 'y', 'z'].flatMap((one) => [bought(one, 'gone', 1, name), bought(one, 'a')]),
        ...others,
      ]),
    );
  const of = (name: object) =>
    pick(
      rule({ kind: 'bought_together', seed: 'latest_order' }),
      shopOf(historyWith(name), [product('a')]),
      { ...nobody, latest: ['gone'] },
    ).picks.map(({ reason }) => reason);
  expect(of({ name: 'Old trowel' })).toEqual(['Goes with your Old trowel']);
  expect(of({})).toEqual(['Goes with your gone']);
});
