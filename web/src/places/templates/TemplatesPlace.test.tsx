/** @jest-environment jsdom */
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { ENDPOINTS, type TemplateHealth, type TemplateSummary } from '@carafe/contract';
import { blankTemplate } from '@carafe/core/template';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { healthWords } from '../../parts/healthWords';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { DataEffects } from '../sources/DataEffects';
import { TemplatesPlace } from './TemplatesPlace';

const NOW = new Date('2026-11-24T09:00:00Z');
const HEALTH: TemplateHealth = {
  ...{ at: '2026-11-24T08:00:00Z', people: 1250, changed: 312, errors: [], held: null },
};
const BROKEN: TemplateHealth = {
  ...HEALTH,
  ...{ changed: 0, errors: ['3 people see no price.', 'Two'], held: '3 people see no price.' },
};
const summary = (name: string, more: Partial<TemplateSummary> = {}): TemplateSummary => ({
  ...{ id: name, name, shop: 's', version: 3, updated_at: '2026-11-24T08:00:00Z' },
  ...{ reads: ['cart'], ...more },
});
/** Answers with these templates, and to anything else as the test says. */
const answer = (templates: TemplateSummary[], other: (sent: Sent) => object = () => ({})) =>
  fakeServer((sent) => {
    if (isFor(ENDPOINTS.listTemplates, sent)) return { body: { templates } };
    return isFor(ENDPOINTS.previewTemplate, sent)
      ? { body: { html: '<p>Hello</p>' } }
      : other(sent);
  });
const of = (sent: Sent[], endpoint: Parameters<typeof isFor>[0]) =>
  sent.filter((one) => isFor(endpoint, one));

beforeEach(() => void store.dispatch(api.util.resetApiState()));

test.each([
  [
    HEALTH,
    'With the data that came 1 hour ago, 312 of 1,250 people get a different email than before.',
  ],
  [{ ...HEALTH, changed: 1 }, /1 of 1,250 people gets a different/],
  [BROKEN, '2 errors: 3 people see no price. Its emails are held.'],
  [{ ...HEALTH, changed: 0 }, ''],
])('what data did is told in sentences (%#)', (health, words) => {
  if (typeof words === 'string') expect(healthWords(health, NOW)).toBe(words);
  else expect(healthWords(health, NOW)).toMatch(words);
});

test('templates are listed with what they read, and found by name and by what they read', async () => {
  answer([summary('Cart left'), summary('Order', { reads: ['order'] })]);
  renderPart(<TemplatesPlace />);
  expect(await screen.findByRole('link', { name: 'Cart left' })).toBeTruthy();
  const search = screen.getByRole('textbox', { name: 'Search templates' });
  fireEvent.change(search, { target: { value: 'order' } });
  expect(screen.queryByRole('link', { name: 'Cart left' })).toBeNull();
  expect(screen.getByRole('link', { name: 'Order' })).toBeTruthy();
  fireEvent.change(search, { target: { value: 'nothing like it' } });
  expect(screen.queryByRole('link', { name: 'Order' })).toBeNull();
});

test('each says whose it is by the shop’s name, and is found by it', async () => {
  answer([summary('Cart left'), summary('Korb', { shop: 'de' })], (sent) =>
    isFor(ENDPOINTS.listShops, sent)
      ? { body: { shops: [{ id: 'de', name: 'Quillmoss Samenhaus' }] } }
      : {},
  );
  renderPart(<TemplatesPlace />);
  expect(await screen.findByText(/^Quillmoss Samenhaus, changed/)).toBeTruthy();
  const search = screen.getByRole('textbox', { name: 'Search templates' });
  fireEvent.change(search, { target: { value: 'samenhaus' } });
  expect(screen.queryByRole('link', { name: 'Cart left' })).toBeNull();
  expect(screen.getByRole('link', { name: 'Korb' })).toBeTruthy();
});

test('a template whose mails are held says why, and lets them go once asked', async () => {
  const sent = answer([summary('Cart left', { health: BROKEN })]);
  renderPart(<TemplatesPlace />);
  const told = await screen.findByRole('status');
  expect(told.textContent).toContain('3 people see no price. Its emails are held.');
  fireEvent.click(within(told).getByRole('button', { name: 'Send them anyway' }));
  await waitFor(() => expect(of(sent, ENDPOINTS.letTemplateGo)).toHaveLength(1));
  expect(of(sent, ENDPOINTS.letTemplateGo)[0]?.path).toBe('/templates/Cart%20left/let-go');
});

test('a template is renamed as it is stored, and a copy is made under a name of its own', async () => {
  const template = blankTemplate('Cart left', 's', []);
  const stored = { id: 'Cart left', version: 7, updated_at: '2026-11-24T08:00:00Z', template };
  const sent = answer([summary('Cart left')], (one) =>
    isFor(ENDPOINTS.getTemplate, one) ? { body: stored } : { body: stored, status: 201 },
  );
  renderPart(<TemplatesPlace />);
  const choose = async (what: string) => {
    fireEvent.click(await screen.findByRole('button', { name: 'More for Cart left' }));
    fireEvent.click(await screen.findByRole('menuitem', { name: what }));
  };
  await choose('Duplicate');
  await waitFor(() => expect(of(sent, ENDPOINTS.createTemplate)).toHaveLength(1));
  expect(of(sent, ENDPOINTS.createTemplate)[0]?.body).toEqual({
    ...{ copy_of: 'Cart left', name: 'Cart left (copy)' },
  });
  await choose('Rename');
  const dialog = await screen.findByRole('dialog');
  fireEvent.change(within(dialog).getByRole('textbox'), { target: { value: 'Still there' } });
  fireEvent.click(within(dialog).getByRole('button', { name: 'Rename' }));
  await waitFor(() => expect(of(sent, ENDPOINTS.saveTemplate)).toHaveLength(1));
  expect(of(sent, ENDPOINTS.saveTemplate)[0]?.body).toMatchObject({
    version: 7,
    template: { name: 'Still there' },
  });
});

test('a list that does not come says so, and is asked for again', async () => {
  let asked = 0;
  fakeServer((sent) => {
    if (!isFor(ENDPOINTS.listTemplates, sent)) return {};
    return ++asked === 1 ? refusal(500, 'Something failed.') : { body: { templates: [] } };
  });
  renderPart(<TemplatesPlace />);
  const alert = await screen.findByRole('alert');
  expect(alert.textContent).toContain('Something failed.');
  fireEvent.click(within(alert).getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
});

test('beside the sources it is told which templates the data changed, of that shop alone', async () => {
  answer([
    summary('Cart left', { health: HEALTH }),
    summary('Order', { health: { ...HEALTH, changed: 0 } }),
    summary('Elsewhere', { shop: 'other', health: BROKEN }),
  ]);
  const one = renderPart(<DataEffects shop="s" />);
  const effects = await screen.findByRole('region', { name: 'Effects of new data' });
  expect(within(effects).getByRole('link', { name: 'Cart left' })).toBeTruthy();
  expect(effects.textContent).toMatch(/312 of 1,250 people get a different email/);
  expect(within(effects).queryByRole('link', { name: 'Order' })).toBeNull();
  expect(within(effects).queryByRole('link', { name: 'Elsewhere' })).toBeNull();
  one.unmount();
  renderPart(<DataEffects shop={null} />);
  expect(await screen.findByRole('link', { name: 'Elsewhere' })).toBeTruthy();
});
