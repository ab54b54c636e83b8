import type { StoredTemplate } from '@carafe/contract';
import type { CheckFinding } from '@carafe/core/checks';
import type { Template } from '@carafe/core/template';
import type { Impact, Survey } from '@carafe/core/variant';
import { asking, said, testServer } from '../testing';

let server: Awaited<ReturnType<typeof testServer>>;
beforeAll(async () => {
  server = await testServer({ demo: true });
}, 120_000);
const api = asking(() => server);

const SHOP = '/shops/quillmoss-gb';
const templates = async (): Promise<StoredTemplate[]> => {
  const { body } = await api('get', '/templates');
  const all = (body as { templates: { id: string; shop: string }[] }).templates;
  return Promise.all(
    all
      .filter(({ shop }) => shop === 'quillmoss-gb')
      .map(async ({ id }) => (await api('get', `/templates/${id}`)).body as StoredTemplate),
  );
};
interface Piece {
  survey: Survey;
  looked: number;
  people: number;
  next: number | null;
}
const surveyed = async (template: unknown, more: object = {}): Promise<Piece> => {
  const { body, status } = await api('post', `${SHOP}/survey`, { template, most: 5_000, ...more });
  expect(status).toBe(200);
  return body as Piece;
};

test('variants of every template of the demo add up to the audience', async () => {
  for (const { template } of (await templates()).slice(0, 6)) {
    const { survey, next } = await surveyed(template);
    expect(next).toBeNull();
    expect(survey.variants.reduce((sum, { people }) => sum + people, 0)).toBe(survey.people);
    expect(new Set(survey.variants.map(({ key }) => key)).size).toBe(survey.variants.length);
  }
}, 120_000);

test('a segment that is gone is no audience of nobody: that is said', async () => {
  const [{ template } = { template: null }] = await templates();
  const audience = { of: 'segment', name: 'never_was' };
  const gone = 'The segment “never_was” no longer exists. Choose another audience.';
  const survey = await api('post', `${SHOP}/survey`, { template, most: 500, audience });
  expect([survey.status, said(survey)]).toEqual([422, gone]);
  const both = { before: template, after_edit: template };
  const impact = await api('post', `${SHOP}/impact`, { ...both, most: 500, audience });
  expect([impact.status, said(impact)]).toEqual([422, gone]);
  const whole = await api('post', '/check', { template, audience });
  expect([whole.status, said(whole)]).toEqual([422, gone]);
});

test('people in pieces come to the same as all at once', async () => {
  const [{ template } = { template: null }] = await templates();
  const whole = await surveyed(template, { audience: { of: 'all' } });
  let people = 0;
  const found = new Map<string, number>();
  for (let after: number | null = 0; after !== null;) {
    const piece: Piece = await surveyed(template, { audience: { of: 'all' }, after, most: 300 });
    people += piece.survey.people;
    for (const one of piece.survey.variants)
      found.set(one.key, (found.get(one.key) ?? 0) + one.people);
    after = piece.next;
  }
  expect(people).toBe(whole.survey.people);
  expect(Object.fromEntries(found)).toEqual(
    Object.fromEntries(whole.survey.variants.map(({ key, people: n }) => [key, n])),
  );
}, 60_000);

test('a template is checked with its people: findings name how many, and one to look at', async () => {
  const [stored] = await templates();
  const template = structuredClone(stored?.template) as Template;
  template.envelope.subject = '';
  template.envelope.preview_text = '{{ person.first_name }}';
  const { body } = await api('post', '/check', { template });
  const { findings, people, variants } = body as {
    findings: CheckFinding[];
    people: number;
    variants: { words: string; people: number }[];
  };
  expect(people).toBeGreaterThan(100);
  expect(variants.reduce((sum, one) => sum + one.people, 0)).toBeLessThanOrEqual(people);
  const blank = findings.find(({ check }) => check === 'subject_blank');
  expect(blank).toMatchObject({ severity: 'error', people });
  expect(blank?.person).toBeGreaterThan(0);
  expect(
    findings.find(({ check, path }) => check === 'blank_tag' && path === 'preview_text'),
  ).toMatchObject({
    repair: { label: 'Add a fallback' },
  });
}, 60_000);

test('the impact of an edit is who gets another mail, and for whom it is worse', async () => {
  const [stored] = await templates();
  const before = stored?.template as Template;
  const after = structuredClone(before);
  const same = await api('post', `${SHOP}/impact`, { before, after_edit: after, most: 5_000 });
  expect((same.body as { impact: Impact }).impact).toMatchObject({ changed: 0, groups: [] });
  after.envelope.subject = '{{ person.first_name }}, look';
  const { body } = await api('post', `${SHOP}/impact`, { before, after_edit: after, most: 5_000 });
  const { impact } = body as { impact: Impact };
  expect(impact.changed).toBe(impact.people);
  expect(impact.groups.reduce((sum, { people }) => sum + people, 0)).toBe(impact.changed);
  expect(impact.groups[0]?.worse).toEqual(['']);
}, 60_000);

test('what cannot be surveyed is refused in words', async () => {
  const [stored] = await templates();
  const other = { ...(stored?.template as Template), shop: 'quillmoss-eu' };
  expect(said(await api('post', `${SHOP}/survey`, { template: other }))).toMatch(/quillmoss-eu/);
  expect(said(await api('post', '/check', {}))).toMatch(/Say what to check/);
  const made = await api('post', `${SHOP}/segments`, { name: 'nobody', formula: '1 = 2' });
  expect(made.status).toBe(201);
  const none = await surveyed(stored?.template, { audience: { of: 'segment', name: 'nobody' } });
  expect(none.survey.people).toBe(0);
});

test('links of a mail are asked for, and Carafe’s own are not', async () => {
  const [stored] = await templates();
  const template = structuredClone(stored?.template) as Template;
  const { recipients } = (await api('get', `${SHOP}/recipients?having=cart&limit=1`)).body as {
    recipients: { id: number }[];
  };
  const asked = { template, person: recipients[0]?.id };
  const { body } = await api('post', `${SHOP}/links`, asked);
  const { links } = body as { links: { address: string; ok: boolean }[] };
  expect(links.length).toBeGreaterThan(0);
  expect(links.every(({ ok }) => ok)).toBe(true);
  expect(links.some(({ address }) => address.includes('unsubscribe'))).toBe(false);
});
