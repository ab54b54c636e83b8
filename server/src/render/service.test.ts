import type { Skeletons } from '@carafe/core/build';
import { blankTemplate, composer, countedIds, type Template } from '@carafe/core/template';
import { templateOrRefuse } from '../templates/service';
import { TEST_SHOP, testServer } from '../testing';
import { RenderService } from './service';

let carafe: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterAll(() => carafe.store.close());

const c = composer(countedIds());
/** Templates as they are stored. */
const stored = new Map(
  ['A', 'B', 'C', 'D', 'E'].map((name) => {
    const template = blankTemplate(
      name,
      's',
      [c.section('S', [c.heading(name)])],
      'post@s.example',
    );
    return [name, templateOrRefuse(template)];
  }),
);
const named = (name: string): Template => structuredClone(stored.get(name)) as Template;

/** A service whose work ends when they are told to. */
function service() {
  const started: { name: string; end: (made: Skeletons) => void; fail: (e: Error) => void }[] = [];
  const jobs = {
    run: (_job: string, { name }: Template) =>
      new Promise<Skeletons>((end, fail) => started.push({ name, end, fail })),
  };
  const render = new RenderService(carafe.tables, jobs as never, () => new Date());
  return { render, started };
}
const made = (name: string) => ({ sections: [], frame: { before: name, after: '' } });
const soon = () => new Promise((done) => setImmediate(() => setImmediate(done)));

test('a template is made ready once, however many ask, also ahead of the asking', async () => {
  const { render, started } = service();
  render.makeAhead(named('A'));
  await soon();
  const asked = [render.skeletons(named('A')), render.skeletons(named('A'))];
  expect(started.map(({ name }) => name)).toEqual(['A']);
  started[0]?.end(made('A'));
  expect(await Promise.all(asked)).toEqual([made('A'), made('A')]);
  expect(await render.skeletons(named('A'))).toEqual(made('A'));
  expect(started).toHaveLength(1);
});

test('another text is other work; of many the latest are kept', async () => {
  const { render, started } = service();
  for (const name of ['A', 'B', 'C', 'D']) void render.skeletons(named(name));
  void render.skeletons(named('A'));
  expect(started).toHaveLength(4);
  void render.skeletons(named('E'));
  void render.skeletons(named('A'));
  void render.skeletons(named('B'));
  expect(started.map(({ name }) => name)).toEqual(['A', 'B', 'C', 'D', 'E', 'B']);
});

test('what failed is told to whoever asks, and made anew the next time', async () => {
  const { render, started } = service();
  render.makeAhead(named('A'));
  await soon();
  const asked = render.skeletons(named('A'));
  started[0]?.fail(new Error('No room.'));
  await expect(asked).rejects.toThrow('No room.');
  void render.skeletons(named('A'));
  expect(started).toHaveLength(2);
});

test('a stored template that cannot be made ready harms nobody ahead of the asking', async () => {
  const { render, started } = service();
  const old = { name: 'Of long ago' } as Template;
  render.makeAhead(old);
  await soon();
  started[0]?.fail(new Error('It has no sections.'));
  await soon();
  await expect(async () => render.skeletons(old)).rejects.toThrow(/cannot be used/);
  expect(started).toHaveLength(1);
});
