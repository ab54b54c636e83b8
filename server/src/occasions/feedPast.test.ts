import type { ReplayAnswer, StoredTemplate, WalkLine } from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { blankTemplate, composer } from '@carafe/core/template';
import { asking, said, TEST_SHOP, testServer } from '../testing';

let carafe: Awaited<ReturnType<typeof testServer>>;
const api = asking(() => carafe);
const DAY = 24 * 60;
let now: number;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  now = Date.parse(((await api('get', '/clock')).body as { now: string }).now);
});
afterEach(async () => {
  await carafe.runner.idle();
  carafe.store.close();
});

const daysAgo = (n: number) => new Date(now - n * DAY * 60_000).toISOString();

/** Posts that came out so many days ago. */
async function posts(...days: number[]) {
  const furrow = { shop: 's', name: 'Furrow', kind: 'typed', target: 'feed' };
  const made = await api('post', '/sources', { ...furrow, formula_name: 'furrow' });
  const { id } = made.body as { id: string };
  const records = days.map((day) => ({
    ...{ guid: String(day), title: `Post of day ${day}`, link: `https://s.example/${day}` },
    published_at: daysAgo(day),
  }));
  const typed = await api('post', `/sources/${id}/typed`, { records });
  expect([typed.status, said(typed)]).toEqual([200, undefined]);
}

async function digest(when: string): Promise<Occasion> {
  const c = composer(carafe.newId);
  const since = 'published_at > (occasion.last_mail_at otherwise add_days(now, -31))';
  const made = blankTemplate(
    'Digest',
    's',
    [c.section('One', [c.text(`{{ join((feeds.furrow.posts where (${since})).title, ", ") }}`)])],
    'post@s.example',
  );
  const stored = (await api('post', '/templates', { template: made })).body as StoredTemplate;
  const { id, version } = stored;
  await api('post', `/templates/${id}/publish`, { version, note: '' });
  return {
    ...{ name: 'Digest', priority: 5, whom: { guests: true } },
    start: { kind: 'repeating', every: 'week', days: [1], time: '08:00', clock: 'shop' },
    steps: [
      { id: 'g', kind: 'guard', when, otherwise: 'stop' },
      { id: 'm', kind: 'send', template: id, mail: 'service', mode: 'on', to: 'person' },
    ],
  };
}

test('a replay knows no post before it came out: a digest goes only when there was something new', async () => {
  const told = { id: 'e1', at: daysAgo(40), shop: 's', email: 'maud@post.example', kind: 'viewed' };
  expect((await api('post', '/events', [{ ...told, sku: 'pot' }])).status).toBe(200);
  await carafe.runner.idle();
  await posts(30, 17, 16);
  const since = 'published_at > (occasion.last_mail_at otherwise add_days(now, -31))';
  const occasion = await digest(`any(feeds.furrow.posts, ${since})`);
  const replay = { occasions: [{ id: 'o', occasion }], mode: 'replay', days: 35 };
  const { figures } = (await api('post', '/shops/s/occasions/replay', replay)).body as ReplayAnswer;
  // Five weeks, of which two brought posts.
  expect(figures).toMatchObject({ entered: 5, mails: 2 });
  const texts = await Promise.all(
    figures.samples.map(async ({ person, at, about, past }) => {
      const [send] = occasion.steps.slice(1);
      const mail = await api('post', '/shops/s/occasions/mail', {
        ...{ template: send?.kind === 'send' ? send.template : '', person, about, past },
        at: new Date(at).toISOString(),
      });
      return (mail.body as { text: string }).text.trim();
    }),
  );
  expect(texts).toEqual(['Post of day 30', 'Post of day 16, Post of day 17']);

  const person = carafe.tables.people.idOf('s', 'maud@post.example');
  const walk = { id: 'o', occasion, person, days: 35 };
  const { lines } = (await api('post', '/shops/s/occasions/walk', walk)).body as {
    lines: WalkLine[];
  };
  // What was true when it was asked: before the mail that came of it.
  const asked = lines.filter(({ kind }) => kind === 'asked');
  expect(asked.map(({ parts }) => parts.at(-1)?.value)).toEqual([
    'published is after 25.09.2026 for the only one of feeds furrow posts',
    'published is after 26.10.2026 not for the only one of feeds furrow posts',
    'published is after 26.10.2026 for 2 of 3 feeds furrow posts',
    'published is after 09.11.2026 for none of 3 feeds furrow posts',
    'published is after 09.11.2026 for none of 3 feeds furrow posts',
  ]);
});
