import type { Built } from '@carafe/core/build';
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
    const template = blankTemplate(name, 's', [c.section('S', [c.heading(name)])]);
    return [name, templateOrRefuse(template)];
  }),
);
const named = (name: string): Template => structuredClone(stored.get(name)) as Template;

/** A service whose builds end when they are told to. */
function service() {
  const started: { name: string; end: (built: Built) => void; fail: (e: Error) => void }[] = [];
  const jobs = {
    run: (_job: string, { name }: Template) =>
      new Promise<Built>((end, fail) => started.push({ name, end, fail })),
  };
  const render = new RenderService(carafe.tables, jobs as never, () => new Date());
  return { render, started };
}
const built = (name: string) => ({ program: { name }, findings: [] }) as unknown as Built;
const soon = () => new Promise((done) => setImmediate(() => setImmediate(done)));

test('a template is built once, however many ask, also ahead of the asking', async () => {
  const { render, started } = service();
  render.buildAhead(named('A'));
  await soon();
  const asked = [render.build(named('A')), render.build(named('A'))];
  expect(started.map(({ name }) => name)).toEqual(['A']);
  started[0]?.end(built('A'));
  expect(await Promise.all(asked)).toEqual([built('A'), built('A')]);
  expect(await render.build(named('A'))).toEqual(built('A'));
  expect(started).toHaveLength(1);
});

test('another text is another build; of many the latest are kept', async () => {
  const { render, started } = service();
  for (const name of ['A', 'B', 'C', 'D']) void render.build(named(name));
  void render.build(named('A'));
  expect(started).toHaveLength(4);
  void render.build(named('E'));
  void render.build(named('A'));
  void render.build(named('B'));
  expect(started.map(({ name }) => name)).toEqual(['A', 'B', 'C', 'D', 'E', 'B']);
});

test('what failed is told to whoever asks, and built anew the next time', async () => {
  const { render, started } = service();
  render.buildAhead(named('A'));
  await soon();
  const asked = render.build(named('A'));
  started[0]?.fail(new Error('No room.'));
  await expect(asked).rejects.toThrow('No room.');
  void render.build(named('A'));
  expect(started).toHaveLength(2);
});

test('a stored template that cannot even be put together harms nobody ahead of the asking', async () => {
  const { render, started } = service();
  render.buildAhead({ name: 'Of long ago' } as Template);
  await soon();
  await expect(async () => render.build({ name: 'Of long ago' })).rejects.toThrow(/cannot be read/);
  expect(started).toHaveLength(0);
});
