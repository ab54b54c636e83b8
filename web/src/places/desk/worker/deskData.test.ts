import { ENDPOINTS, type Endpoint } from '@carafe/contract';
import { skeletonsOf } from '@carafe/core/build';
import {
  blankTemplate,
  composer,
  countedIds,
  type Block,
  type Template,
} from '@carafe/core/template';
import { RequestFailed, type Asked, type ask as askServer } from '../../../app/ask';
import { DeskData } from './deskData';
import type { FromWorker } from './messages';

const c = composer(countedIds());
const mail = (...blocks: Block[]): Template => blankTemplate('T', 'gb', [c.section('S', blocks)]);
const hello = mail(c.text('Hello {{ person.first_name }}', { id: 't' }));
const shape = {
  kind: 'record',
  fields: {
    person: {
      ...{ filled: 2, of: 2, samples: [] },
      shape: {
        kind: 'record',
        fields: { first_name: { filled: 2, of: 2, samples: [], shape: { kind: 'text' } } },
      },
    },
  },
};

interface Question extends Asked {
  endpoint: Endpoint;
}

/** Waits until nothing is under way. */
async function settled() {
  for (let i = 0; i < 40; i++) await new Promise((done) => setImmediate(done));
}

/** The worker's data over a server of the test's own, with what it was asked and what it told. */
function desk(answers: Partial<Record<string, (asked: Question) => unknown>> = {}) {
  const asked: Question[] = [];
  const told: FromWorker[] = [];
  const waiting: (() => void)[] = [];
  const names: Record<number, string> = { 1: 'Maud', 2: 'Nora' };
  const usual: Record<string, (question: Question) => unknown> = {
    sharedData: () => ({
      shared: { shop: { name: 'S', url: 'https://s.example' }, catalog: {}, feeds: {}, coupon: {} },
      lengths: {},
      library: { formulas: [], notes: [] },
    }),
    shape: () => shape,
    skeletons: ({ body }) => skeletonsOf((body as { template: Template }).template),
    somePeople: ({ query }) => ({
      products: [],
      people: (query as { ids: string }).ids.split(',').map((id) => ({
        id: Number(id),
        data: { person: { first_name: names[Number(id)] }, shopper: { cart: null, orders: [] } },
      })),
    }),
  };
  const data = new DeskData({
    ask: (async (endpoint: Endpoint, more: Asked = {}) => {
      const question = { endpoint, ...more };
      asked.push(question);
      const [name = ''] = Object.entries(ENDPOINTS).find(([, one]) => one === endpoint) ?? [];
      return (answers[name] ?? usual[name])?.(question);
    }) as typeof askServer,
    post: (message) => void told.push(structuredClone(message)),
    later(work, milliseconds) {
      // What only lets other messages go first is done right after them.
      if (milliseconds === 0) queueMicrotask(work);
      else waiting.push(work);
      return () => {
        const at = waiting.indexOf(work);
        if (at >= 0) waiting.splice(at, 1);
      };
    },
  });
  const show = (person: number, near: number[] = []) =>
    data.show({ person, near, asOf: '2026-11-24T09:00:00Z' });
  return {
    ...{ data, names, show },
    /** Who was asked for, each time; their picks follow by themselves. */
    people: () =>
      asked
        .filter(({ endpoint }) => endpoint === ENDPOINTS.somePeople)
        .map(({ query }) => query as { ids: string; picks: string })
        .flatMap(({ ids, picks }) => (picks === 'none' ? [ids] : [])),
    asked: (endpoint: Endpoint) => asked.filter((one) => one.endpoint === endpoint),
    told: <T extends FromWorker['type']>(type: T) =>
      told.filter((one): one is Extract<FromWorker, { type: T }> => one.type === type),
    texts: () =>
      told.flatMap((one) => (one.type === 'filled' ? [one.filled.mail.text.trim()] : [])),
    /** Waits until nothing is under way, and then does what waits for that. */
    async rest() {
      await settled();
      waiting.splice(0).forEach((work) => work());
    },
  };
}

describe('the data of the desk', () => {
  it('fills the mail for whoever is shown, and the next from what came with the first', async () => {
    const { data, show, rest, texts, people } = desk();
    data.setTemplate(hello);
    show(1, [1, 2]);
    await rest();
    expect(texts().at(-1)).toBe('Hello Maud');
    expect(people()).toEqual(['1,2']);
    show(2, [1, 2]);
    expect(texts().at(-1)).toBe('Hello Nora');
    await rest();
    expect(people()).toHaveLength(1);
  });

  it('tells where a mail runs into a bound, and of a whole one that it does not', async () => {
    const { data, show, rest, told } = desk();
    const list = (n: number) => `[${Array(n).fill(1).join()}]`;
    const often = mail(
      c.text('Again', { id: 'again', loop: { list: list(150), as: 'b' } }),
    ) as Template & { sections: { loop?: object }[] };
    data.setTemplate(often);
    show(1);
    await rest();
    expect(told('filled').at(-1)?.filled.cut).toBeNull();
    const [section] = often.sections;
    data.setTemplate({
      ...often,
      sections: [{ ...section, loop: { list: list(150), as: 'a' } }],
    } as Template);
    await rest();
    expect(told('filled').at(-1)?.filled.cut).toMatchObject({ node: 'again', path: 'loop' });
  });

  it('has the next mail ready, and never one of another template, day or person’s data', async () => {
    const { data, show, rest, texts, names } = desk();
    const today = (words: string) =>
      mail(c.text(`${words} {{ person.first_name }}, {{ date(today) }}`));
    data.setTemplate(today('Hello'));
    show(1, [1, 2]);
    await rest();
    await rest();
    data.setTemplate(today('Dear'));
    show(2, [1, 2]);
    await rest();
    expect(texts().at(-1)).toBe('Dear Nora, 24 Nov 2026');
    // Back up the list, on another day.
    data.show({ person: 1, near: [1, 2], asOf: '2026-11-25T09:00:00Z' });
    expect(texts().at(-1)).toBe('Dear Maud, 25 Nov 2026');
    await rest();
    names[2] = 'Norah';
    data.update({ type: 'people', shop: 'gb', ids: [2] });
    await rest();
    data.show({ person: 2, near: [1, 2], asOf: '2026-11-25T09:00:00Z' });
    expect(texts().at(-1)).toBe('Dear Norah, 25 Nov 2026');
  });

  it('builds one edit at a time, and of those that came meanwhile the last alone', async () => {
    let release = () => undefined as void;
    const held = new Promise<void>((done) => (release = done));
    let builds = 0;
    const { data, show, rest, texts, asked } = desk({
      skeletons: async ({ body }) => {
        if (++builds === 1) await held;
        return skeletonsOf((body as { template: Template }).template);
      },
    });
    show(1);
    data.setTemplate(mail(c.text('One')));
    data.setTemplate(mail(c.heading('Two')));
    data.setTemplate(mail(c.text('Three'), c.text('Lines')));
    await rest();
    release();
    await rest();
    expect(asked(ENDPOINTS.skeletons)).toHaveLength(2);
    expect(texts().at(-1)).toBe('Three\n\nLines');
  });

  it('asks for nothing where only words are new', async () => {
    const { data, show, rest, texts, asked } = desk();
    show(1);
    data.setTemplate(hello);
    await rest();
    data.setTemplate(mail(c.text('Good morning, {{ person.first_name }}!', { id: 't' })));
    await rest();
    expect(texts().at(-1)).toBe('Good morning, Maud!');
    expect(asked(ENDPOINTS.skeletons)).toHaveLength(1);
  });

  it('asks for the sections that are new, and for no others', async () => {
    const { data, rest, asked } = desk();
    const [one, two] = [
      c.section('A', [c.text('First')]),
      c.section('B', [c.button('Go', 'https://s.example')]),
    ];
    data.setTemplate(blankTemplate('T', 'gb', [one]));
    await rest();
    data.setTemplate(blankTemplate('T', 'gb', [two, one]));
    await rest();
    const sections = asked(ENDPOINTS.skeletons).map(
      ({ body }) => (body as { template: Template }).template.sections,
    );
    expect(sections).toEqual([[one], [two]]);
  });

  it('asks only for the catalogs that the template reads, and no second time for the same', async () => {
    const { data, rest, asked } = desk();
    const listed = (more: object) =>
      mail(c.text('{{ p.name }}', { loop: { list: 'catalog.big', as: 'p', ...more } }));
    data.setTemplate(hello);
    await rest();
    data.setTemplate(listed({ at_most: 2 }));
    await rest();
    data.setTemplate(listed({ at_most: 2 }));
    data.setTemplate(hello);
    await rest();
    data.setTemplate(listed({ at_most: 9 }));
    await rest();
    const loop = (at_most: number) => ({ list: 'catalog.big', as: 'p', at_most });
    expect(asked(ENDPOINTS.sharedData).map(({ body }) => body)).toEqual([
      { catalogs: [] },
      { catalogs: [{ name: 'big', loops: [loop(2)] }] },
      { catalogs: [{ name: 'big', loops: [loop(2), loop(9)] }] },
    ]);
  });

  it('fills for an instant that was chosen with what is shared by then', async () => {
    const { data, rest, asked, texts } = desk({
      sharedData: ({ body }) => ({
        shared: {
          ...{ shop: { name: 'S' }, catalog: {}, feeds: {} },
          coupon: (body as { as_of?: string }).as_of ? {} : { spring: { code: 'SPRING' } },
        },
        ...{ lengths: {}, library: { formulas: [], notes: [] } },
      }),
    });
    data.setTemplate(mail(c.text('{{ coupon.spring.code otherwise "no code" }}')));
    const now = { person: 1, near: [], asOf: '2026-11-24T09:00:00Z', isChosen: false };
    data.show(now);
    await rest();
    const then = { ...now, asOf: '2026-12-24T09:00:00Z', isChosen: true };
    data.show(then);
    data.show({ ...then, person: 2 });
    await rest();
    expect(texts().at(-1)).toBe('no code');
    data.show(now);
    await rest();
    expect(texts().at(-1)).toBe('SPRING');
    expect(asked(ENDPOINTS.sharedData).map(({ body }) => body)).toEqual([
      { catalogs: [] },
      { catalogs: [], as_of: '2026-12-24T09:00:00Z' },
      { catalogs: [] },
    ]);
  });

  it('keeps the last formula that could be read on the canvas, and says so', async () => {
    const { data, rest, told } = desk();
    const when = (condition: string) =>
      mail(c.text('Hello', { id: 'x', when: condition, else: c.text('Goodbye', { id: 'e' }) }));
    data.show({ person: 1, near: [], asOf: '2026-11-24T09:00:00Z' });
    data.setTemplate(when('person.first_name is filled'));
    await rest();
    data.setTemplate(when('person.first_name is filled and ('));
    await rest();
    const mails = told('filled').map(({ filled }) => filled.mail.text.trim());
    expect(new Set(mails)).toEqual(new Set(['Hello']));
    const said = told('built')
      .at(-1)
      ?.findings.map(({ node, message }) => [node, message]);
    expect(said).toEqual([['x', 'The email shows the last version that could be read.']]);
    data.setTemplate(when('person.first_name is empty'));
    await rest();
    expect(told('filled').at(-1)?.filled.mail.text.trim()).toBe('Goodbye');
    expect(told('built').at(-1)?.findings).toEqual([]);
  });

  it('keeps what always showed while its first condition cannot be read', async () => {
    const { data, rest, told } = desk();
    data.show({ person: 1, near: [], asOf: '2026-11-24T09:00:00Z' });
    data.setTemplate(mail(c.text('Hello', { id: 'x' })));
    await rest();
    data.setTemplate(mail(c.text('Hello', { id: 'x', when: 'person.' })));
    await rest();
    expect(told('filled').at(-1)?.filled.mail.text.trim()).toBe('Hello');
    expect(told('built').at(-1)?.findings).toMatchObject([{ node: 'x', path: 'when' }]);
    data.setTemplate(mail(c.text('Hello', { id: 'x', when: 'person.first_name is empty' })));
    await rest();
    expect(told('filled').at(-1)?.filled.mail.text.trim()).toBe('');
  });

  it('checks once typing rests, and tells what the latest template has wrong', async () => {
    const { data, rest, told } = desk();
    data.setTemplate(hello);
    await rest();
    // With nobody to show the mail for, the shape comes after a while.
    await rest();
    data.setTemplate(mail(c.text('{{ person.frist_name }}', { id: 'x' })));
    data.setTemplate(mail(c.text('{{ person.first_nam }}', { id: 'y' })));
    await rest();
    expect(
      told('checked').map(({ findings }) => findings.flatMap(({ node }) => node || [])),
    ).toEqual([[], ['y']]);
  });

  describe('hears that', () => {
    async function opened(answers?: Parameters<typeof desk>[0]) {
      const made = desk(answers);
      made.data.setTemplate(hello);
      made.show(1, [1, 2]);
      await made.rest();
      return made;
    }

    it('a person changed: who is shown is filled anew, and the list is told', async () => {
      const { data, names, rest, texts, told, people } = await opened();
      names[1] = 'Matilda';
      data.update({ type: 'people', shop: 'gb', ids: [1] });
      await rest();
      expect(texts().at(-1)).toBe('Hello Matilda');
      expect(people().at(-1)).toBe('1');
      expect(told('people').at(-1)?.ids).toEqual([1]);
    });

    it('very many people changed: whoever is shown is asked for again, not all of them', async () => {
      const { data, names, rest, show, texts, people } = await opened();
      names[2] = 'Leonora';
      data.update({ type: 'people', shop: 'gb', ids: [] });
      await rest();
      show(2, [1, 2]);
      await rest();
      expect(texts().at(-1)).toBe('Hello Leonora');
      expect(people()).toEqual(['1,2', '1,2']);
    });

    it('all may have changed since the page last heard', async () => {
      const { data, names, rest, texts, asked } = await opened();
      names[1] = 'Maude';
      data.update({ type: 'stale' });
      await rest();
      expect(texts().at(-1)).toBe('Hello Maude');
      expect(asked(ENDPOINTS.sharedData)).toHaveLength(2);
      expect(asked(ENDPOINTS.shape)).toHaveLength(2);
    });

    it('the shape is another than the one that was told: it alone is asked for', async () => {
      const { data, rest, people, asked } = await opened();
      data.update({ type: 'shape', shop: 'de' });
      await rest();
      expect(asked(ENDPOINTS.shape)).toHaveLength(1);
      data.update({ type: 'shape', shop: 'gb' });
      await rest();
      expect(asked(ENDPOINTS.shape)).toHaveLength(2);
      expect(people()).toHaveLength(1);
    });

    it('something of another shop changed, which is nothing here', async () => {
      const { data, rest, people, asked } = await opened();
      data.update({ type: 'people', shop: 'de', ids: [1] });
      data.update({ type: 'shared', shop: 'de' });
      data.update({ type: 'template', id: 'x' });
      await rest();
      expect(people()).toHaveLength(1);
      expect(asked(ENDPOINTS.sharedData)).toHaveLength(1);
    });
  });

  describe('of picks', () => {
    const withPicks = {
      somePeople: ({ query }: Question) => {
        const { ids, picks } = query as { ids: string; picks: string };
        const person = (id: string) => ({ first_name: id === '1' ? 'Maud' : 'Nora' });
        const own = picks === 'all' ? { picks: { best: [{ sku: 'S-1', step: 0 }] } } : {};
        return {
          products: [{ sku: 'S-1', name: 'Poppy', price: 2 }],
          people: ids.split(',').map((id) => ({
            id: Number(id),
            data: { person: person(id), shopper: { cart: null, orders: [] }, ...own },
          })),
        };
      },
    };
    const ways = (asked: Question[]) =>
      asked.map(({ query }) => Object.values(query as { ids: string; picks: string }).join(' '));

    it('those that the mail does not show follow it, for whoever is looked at', async () => {
      const { data, show, rest, asked, texts, told } = desk(withPicks);
      data.setTemplate(hello);
      show(1, [1, 2]);
      await settled();
      expect(texts().at(-1)).toBe('Hello Maud');
      expect(ways(asked(ENDPOINTS.somePeople))).toEqual(['1,2 none']);
      await rest();
      await settled();
      expect(ways(asked(ENDPOINTS.somePeople))).toEqual(['1,2 none', '1 all']);
      const own = told('filled').at(-1)?.filled.own as { picks?: { best: unknown[] } };
      expect(own.picks?.best).toHaveLength(1);
    });

    it('those that it shows come with the people', async () => {
      const { data, show, rest, asked, texts } = desk(withPicks);
      data.setTemplate(mail(c.text('{{ first(picks.best).name }}')));
      show(1, [1, 2]);
      await rest();
      expect(texts().at(-1)).toBe('Poppy');
      expect(ways(asked(ENDPOINTS.somePeople))).toEqual(['1,2 all']);
    });

    it('those that it shows from now on are asked for', async () => {
      const { data, show, asked, texts } = desk(withPicks);
      data.setTemplate(hello);
      show(1, [1, 2]);
      await settled();
      // However fast somebody types on, they are asked for once.
      for (const words of ['', 'N', 'Ne'])
        data.setTemplate(mail(c.text(`${words}{{ first(picks.best).name }}`)));
      data.setTemplate(mail(c.text('{{ first(picks.best).name }}')));
      await settled();
      expect(texts().at(-1)).toBe('Poppy');
      show(2, [1, 2]);
      expect(texts().at(-1)).toBe('Poppy');
      expect(ways(asked(ENDPOINTS.somePeople))).toEqual(['1,2 none', '1,2 all']);
    });
  });

  it('tells what went wrong in the server’s words, and tries again when asked again', async () => {
    let fails = true;
    const { data, show, rest, told, texts, people } = desk({
      somePeople: () => {
        if (fails) throw new RequestFailed({ status: 0, message: 'No server.', body: null });
        return {
          products: [],
          people: [
            {
              id: 1,
              data: { person: { first_name: 'Maud' }, shopper: { cart: null, orders: [] } },
            },
          ],
        };
      },
    });
    data.setTemplate(hello);
    show(1);
    await rest();
    expect(told('problem').some(({ message }) => message === 'No server.')).toBe(true);
    expect(texts()).toEqual([]);
    fails = false;
    show(1);
    await rest();
    expect(texts().at(-1)).toBe('Hello Maud');
    expect(people().length).toBeGreaterThan(1);
  });

  it('what the shop keeps is put into the template, and anew when it changes', async () => {
    let formula = '"Dear " & person.first_name';
    const named = () => ({
      ...{ name: 'hello', label: 'Hello', description: '', group: '', use: 'value', formula },
    });
    const carafe = desk({
      sharedData: () => ({
        shared: { shop: { name: 'S' }, catalog: {}, feeds: {}, coupon: {} },
        lengths: {},
        library: { formulas: [named()], notes: [] },
      }),
    });
    const { data, show, rest, texts } = carafe;
    show(1);
    data.setTemplate(mail(c.text('{{ own.hello }}!')));
    await rest();
    expect(texts().at(-1)).toBe('Dear Maud!');
    formula = '"Hello " & person.first_name';
    data.update({ type: 'shared', shop: null });
    await rest();
    expect(texts().at(-1)).toBe('Hello Maud!');
  });

  it('what another shop sends late is passed over', async () => {
    let release = () => undefined as void;
    const held = new Promise<void>((done) => (release = done));
    const { data, rest, told } = desk({
      sharedData: async ({ params }) => {
        const shop = params?.['shop'];
        if (shop === 'gb') await held;
        return {
          shared: { shop: { name: shop }, catalog: {}, feeds: {}, coupon: {} },
          lengths: {},
          library: { formulas: [], notes: [] },
        };
      },
    });
    data.setTemplate(hello);
    data.setTemplate({ ...hello, shop: 'de' });
    await rest();
    release();
    await rest();
    expect(told('shared').map(({ shared }) => shared.shop['name'])).toEqual(['de']);
  });
});
