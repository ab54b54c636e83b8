/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { Samples } from './Samples';

afterEach(cleanup);

const PEOPLE = 5_000;
const c = composer(countedIds());
const letter = () => blankTemplate('News', 's', [c.section('One', [c.text('News')])]);

interface Piece {
  after: number;
  most: number;
  audience: unknown;
}
const pieceOf = ({ body }: Sent) => body as Piece;

/** A shop in which every second person has no name; from the 3,000th on there is a third mail. */
function server(more: (sent: Sent) => { status?: number; body: object } | null = () => null) {
  const template = letter();
  return fakeServer((sent) => {
    const own = more(sent);
    if (own) return own;
    if (isFor(ENDPOINTS.beforeSending, sent))
      return { body: { sending: { template_id: 't', template } } };
    if (isFor(ENDPOINTS.survey, sent)) {
      const { after, most } = pieceOf(sent);
      const end = Math.min(PEOPLE, after + most);
      const half = (end - after) / 2;
      const variants = [
        { key: '00', people: half, person: after + 1 },
        { key: '10', people: half, person: after + 2 },
        ...(end > 3_000 ? [{ key: '11', people: 1, person: 4_001 }] : []),
      ];
      const decision = { kind: 'condition', node: 'a', path: '', formula: 'x' };
      const survey = { people: end - after, variants, facts: {}, addresses: [], products: {} };
      return {
        body: {
          survey: { ...survey, broken: [], decisions: [decision, { ...decision, node: 'b' }] },
          ...{ looked: end - after, people: PEOPLE, next: end < PEOPLE ? end : null },
        },
      };
    }
    if (isFor(ENDPOINTS.fillDraft, sent)) {
      const { person } = sent.body as { person: number };
      const mail = { from: '', preview_text: '', text: '', held: [] };
      return { body: { ...mail, subject: `To ${person}`, html: `<p>${person}</p>` } };
    }
    if (isFor(ENDPOINTS.checkTemplate, sent)) {
      const finding = { check: 'c', node: 'a', severity: 'error', message: 'A link is empty.' };
      return { body: { findings: [finding], labels: {} } };
    }
    return {};
  });
}

test('the first mails are seen at once, all that differ in the end, and what the checks find of everybody', async () => {
  const sent = server();
  renderPart(<Samples id="o1" />);
  const first = await screen.findByRole('list', { name: 'Samples' });
  expect(first.querySelectorAll('li').length).toBeGreaterThanOrEqual(2);
  expect(await screen.findByText('A link is empty.')).toBeTruthy();
  const samples = within(screen.getByRole('list', { name: 'Samples' })).getAllByRole('button');
  expect(samples).toHaveLength(3);
  const asked = sent.filter((one) => isFor(ENDPOINTS.survey, one)).map(pieceOf);
  expect(asked[0]?.most).toBeLessThan(1_000);
  expect(new Set(asked.map(({ audience }) => JSON.stringify(audience)))).toEqual(
    new Set(['{"of":"occasion","occasion":"o1"}']),
  );
});

test('a sample that is chosen tells its subject and how many get one like it', async () => {
  server();
  const user = userEvent.setup();
  renderPart(<Samples id="o1" />);
  await screen.findByText('A link is empty.');
  const list = screen.getByRole('list', { name: 'Samples' });
  const [, rare] = within(list).getAllByRole('button');
  await user.click(rare as HTMLElement);
  expect(rare?.getAttribute('aria-pressed')).toBe('true');
  await waitFor(() => expect(screen.getByRole('status').textContent).toMatch(/^To \d+/));
  expect(screen.getByRole('status').textContent).toMatch(/: 2 people$/);
});

test('nobody, nothing to send, and a refusal are said', async () => {
  server((sent) =>
    isFor(ENDPOINTS.survey, sent)
      ? {
          body: {
            survey: {
              ...{ people: 0, variants: [], facts: {}, addresses: [], products: {} },
              ...{ broken: [], decisions: [] },
            },
            ...{ looked: 0, people: 0, next: null },
          },
        }
      : null,
  );
  renderPart(<Samples id="o1" />);
  expect(await screen.findByText('Nobody would get it.')).toBeTruthy();
  cleanup();
  server((sent) =>
    isFor(ENDPOINTS.beforeSending, sent) ? { body: { sending: null } as object } : null,
  );
  renderPart(<Samples id="o2" />);
  expect(await screen.findByText('It does not send anything yet.')).toBeTruthy();
  cleanup();
  server((sent) => (isFor(ENDPOINTS.survey, sent) ? refusal(422, 'It is gone.') : null));
  renderPart(<Samples id="o3" />);
  expect((await screen.findByRole('alert')).textContent).toBe('It is gone.');
});

test('who closes it while it goes on asks for no more', async () => {
  const sent = server((one) => {
    if (isFor(ENDPOINTS.survey, one) && pieceOf(one).after > 0) cleanup();
    return null;
  });
  renderPart(<Samples id="o1" />);
  await waitFor(() =>
    expect(sent.some((one) => isFor(ENDPOINTS.survey, one) && pieceOf(one).after > 0)).toBe(true),
  );
  await new Promise((done) => requestAnimationFrame(done));
  expect(sent.filter((one) => isFor(ENDPOINTS.survey, one))).toHaveLength(2);
  expect(sent.some((one) => isFor(ENDPOINTS.checkTemplate, one))).toBe(false);
});
