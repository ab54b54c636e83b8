import type { Shape } from '@carafe/core/shape';
import { LiveUpdates } from '../live/liveUpdates';
import { ShopShapes } from './shopShapes';

/** The shape of so many people. */
const shapeOf = (people: number): Shape => ({
  kind: 'record',
  fields: { name: { shape: { kind: 'text' }, filled: people, of: people, samples: [] } },
});
const ofOf = (shape: Shape) => (shape.kind === 'record' ? shape.fields['name']?.of : undefined);

/** Shapes whose work is done when a test says so; `kept` is what was kept before the start. */
function given(
  patience: number,
  kept: Shape | null = null,
  write: (work: () => void) => Promise<void> = (work) => Promise.resolve(work()),
) {
  const works: ((people: number) => void)[] = [];
  const updates = new LiveUpdates('s');
  const told: string[] = [];
  const logged = jest.fn();
  updates.listen(({ update }) => told.push(update.type));
  let put: Shape | null = kept;
  const jobs = {
    run: () => new Promise<Shape>((done) => works.push((people) => done(shapeOf(people)))),
  };
  const shapes = new ShopShapes(
    {
      ...{ jobs: jobs as never, updates, now: () => new Date(0), log: { error: logged } },
      store: { write: write as never },
      shapes: { find: () => put, put: (_, shape) => void (put = shape) },
    },
    patience,
  );
  const asked = async (shop = 's') => ofOf(await shapes.of(shop));
  const changed = (shop: string | null = 's') => updates.publish({ type: 'shared', shop });
  const begun_ = async (count: number) => {
    while (works.length < count) await new Promise((done) => setImmediate(done));
  };
  return { works, told, logged, asked, changed, begun: begun_, kept: () => put };
}
const NEVER = 1_000_000;

test('it is worked out once, for all who ask, until something changes in the shop', async () => {
  const { works, asked, changed, begun } = given(NEVER);
  const both = Promise.all([asked(), asked()]);
  await begun(1);
  works[0]?.(3);
  expect(await both).toEqual([3, 3]);
  expect(await asked()).toBe(3);
  changed('another');
  expect(await asked()).toBe(3);
  expect(works).toHaveLength(1);
  for (const shop of ['s', null]) {
    const before = works.length;
    changed(shop);
    const anew = asked();
    await begun(before + 1);
    works[before]?.(before + 10);
    expect(await anew).toBe(before + 10);
  }
});

test('whoever asks after a change is not told what was begun before it', async () => {
  const { works, asked, changed, begun } = given(NEVER);
  const first = asked();
  await begun(1);
  changed();
  const second = asked();
  works[0]?.(1);
  expect(await first).toBe(1);
  await begun(2);
  works[1]?.(2);
  expect(await second).toBe(2);
  expect(await asked()).toBe(2);
  expect(works).toHaveLength(2);
});

test('where it takes long the one before is told, and pages hear when there is another', async () => {
  const { works, told, asked, changed, begun, kept } = given(0, shapeOf(7));
  expect(await asked()).toBe(7);
  await begun(1);
  works[0]?.(8);
  while (!told.includes('shape')) await new Promise((done) => setImmediate(done));
  expect(await asked()).toBe(8);
  expect(kept()).toEqual(shapeOf(8));
  // Nothing is told where it is as it was.
  changed();
  const before = told.length;
  expect(await asked()).toBe(8);
  await begun(2);
  works[1]?.(8);
  await new Promise((done) => setTimeout(done, 20));
  expect(told).toHaveLength(before);
  expect(await asked()).toBe(8);
});

test('however often something changes, one is worked out at a time', async () => {
  const { works, asked, changed, begun } = given(0, shapeOf(7));
  for (let i = 0; i < 50; i++) {
    changed();
    expect(await asked()).toBe(7);
  }
  await begun(1);
  expect(works).toHaveLength(1);
});

test('where it cannot be kept it is told all the same', async () => {
  const full = () => Promise.reject(new Error('The disk is full.'));
  const { works, told, logged, asked, begun, kept } = given(0, shapeOf(7), full);
  expect(await asked()).toBe(7);
  await begun(1);
  works[0]?.(8);
  while (logged.mock.calls.length === 0) await new Promise((done) => setImmediate(done));
  expect(told).toContain('shape');
  expect(await asked()).toBe(8);
  expect(kept()).toEqual(shapeOf(7));
  expect(works).toHaveLength(1);
});

test('what fails is told, and tried again when somebody asks', async () => {
  const updates = new LiveUpdates('s');
  let fails = true;
  const shapes = new ShopShapes({
    jobs: {
      run: () =>
        fails ? Promise.reject(new Error('The disk is gone.')) : Promise.resolve(shapeOf(1)),
    } as never,
    ...{ updates, now: () => new Date(0), log: { error: jest.fn() } },
    store: { write: ((work: () => void) => Promise.resolve(work())) as never },
    shapes: { find: () => null, put: () => undefined },
  });
  await expect(shapes.of('s')).rejects.toThrow('The disk is gone.');
  fails = false;
  expect(ofOf(await shapes.of('s'))).toBe(1);
});
