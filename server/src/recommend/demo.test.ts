import { demoRules } from '@carafe/demo';
import type { Fields } from '@carafe/core/formula';
import { hiddenOrders, trial, type Activity, type TrialResult } from '@carafe/core/recommend';
import { testServer } from '../testing';
import { activityOfAll } from './activity';

const SHOP = 'quillmoss-gb';
let activity: Activity[];
let catalog: Fields[];
beforeAll(async () => {
  const { tables, store } = await testServer({ demo: true });
  activity = [...activityOfAll(tables, SHOP)];
  catalog = tables.sources
    .feeding('catalog', SHOP)
    .flatMap(({ id }) => [...tables.entries.records(id)])
    .map((record) => JSON.parse(record) as Fields);
  store.close();
});

const RULES = demoRules();
function tried(past: Activity[]): TrialResult {
  const steps = trial(RULES, hiddenOrders(past), past, catalog, { times: 20 });
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** What was sold stays, but to whom it was is left to chance. */
function shuffled(past: readonly Activity[]): Activity[] {
  const skus = past.flatMap(({ bought }) => bought.map(({ sku }) => sku));
  let state = 12345;
  const chance = (below: number) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
  for (let i = skus.length - 1; i > 0; i--) {
    const other = chance(i + 1);
    [skus[i], skus[other]] = [skus[other] ?? '', skus[i] ?? ''];
  }
  let at = 0;
  return past.map((one) => ({
    ...one,
    ...{ viewed: [], carted: [] },
    bought: one.bought.map((line) => ({ ...line, sku: skus[at++] ?? '' })),
  }));
}

const over = ({ rules, best_sellers }: TrialResult) =>
  RULES.filter((_, i) => (rules[i]?.hits.low ?? 0) > best_sellers.hits.high).map(
    ({ name }) => name,
  );

test('on the past of the demo, at least two of its rules are above best sellers, clear of each other', () => {
  const result = tried(activity);
  expect(result.people).toBeGreaterThan(400);
  expect(over(result)).toEqual(expect.arrayContaining(['after_purchase', 'new_for_you']));
  expect(result.at_random.hits.mean).toBeLessThan(result.best_sellers.hits.mean);
});

test('on the same past shuffled, none is', () => {
  const result = tried(shuffled(activity));
  expect(over(result)).toEqual([]);
  for (const { more } of result.rules) expect(more.low).toBeLessThanOrEqual(0);
});
