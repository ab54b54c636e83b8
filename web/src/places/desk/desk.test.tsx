/** @jest-environment jsdom */
import { act, cleanup, createEvent, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, settled, type Sent } from '../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk, somePeople } from '../../testing/desk';
import { Canvas } from './Canvas';
import { deskActions } from './deskSlice';
import { EnvelopeLine } from './EnvelopeLine';
import { AtAGlance } from './inspector/AtAGlance';
import { Outline } from './Outline';
import { WhoBar } from './WhoBar';
import { WhoSearch } from './WhoSearch';
import type { Filled } from './worker/messages';

const queryOf = ({ path }: Sent) => Object.fromEntries(new URLSearchParams(path.split('?')[1]));
const c = composer(countedIds());
const template = blankTemplate('T', 'seeds', [
  c.section('Cart', [
    c.heading('Hello', { id: 'h' }),
    c.block('lines', { id: 'l', items: { list: 'cart.lines', as: 'line' } }),
    c.text('Free', { id: 'f', when: 'cart.total >= 50', else: c.text('Not yet', { id: 'e' }) }),
  ]),
]);
const PEOPLE = somePeople(5);
const SOURCES = [
  { id: 'p', name: 'Our people', target: 'people', shop: 'seeds', last_import_at: null },
  { id: 'e', name: 'Events', target: 'events', shop: 'seeds', last_import_at: null },
  { id: 'o', name: 'Elsewhere', target: 'events', shop: 'other', last_import_at: null },
  { id: 'c', name: 'A catalog', target: 'catalog', shop: null, formula_name: 'garden' },
];
const why = { value: true, summary: '', parts: [], reasons: [] };
const FILLED = {
  person: 1,
  turn: 1,
  mail: { from: 'Seeds', subject: 'Your pot', preview_text: 'It waits', html: 'x'.repeat(120_000) },
  trail: [
    {
      is: 'loop',
      node: 'l',
      path: 'items',
      formula: 'cart.lines',
      as: 'line',
      before: 1,
      kept: 1,
      shown: 1,
      members: [],
    },
    {
      is: 'condition',
      node: 'f',
      path: 'when',
      formula: 'cart.total >= 50',
      held: false,
      said: 'cart total £3.40 is under £50.00',
      why,
    },
  ],
  formulas: [],
  own: {},
} as unknown as Filled;

async function opened(part: React.ReactNode) {
  const worker = fakeWorker();
  store.dispatch(api.util.resetApiState());
  const sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listSources, one)) return { body: { sources: SOURCES } };
    if (isFor(ENDPOINTS.listShops, one))
      return { body: { shops: [{ id: 'seeds', timezone: 'Pacific/Honolulu' }] } };
    if (isFor(ENDPOINTS.recipientFacets, one))
      return { body: { languages: [{ value: 'de-DE', people: 3 }], countries: [] } };
    return { body: { total: PEOPLE.length, recipients: PEOPLE } };
  });
  openTemplate(template);
  renderOnDesk(part);
  await settled();
  await worker.say({ type: 'filled', filled: FILLED });
  return { worker, sent };
}
afterEach(cleanup);

describe('the outline', () => {
  const lineOf = (name: RegExp) => screen.getByRole('button', { name });
  it('says in words with values what each part did for this recipient', async () => {
    await opened(<Outline />);
    expect(lineOf(/Table of cart lines/).textContent).toContain('1 line');
    const hidden = lineOf(/^Free/);
    expect(hidden.textContent).toContain('hidden: cart total £3.40 is under £50.00');
    expect(hidden.parentElement?.hasAttribute('data-hidden')).toBe(true);
    expect(lineOf(/Not yet/).textContent).toContain('else');
  });

  it('marks what has findings, and selects what is clicked', async () => {
    const { worker } = await opened(<Outline />);
    await worker.say({
      type: 'built',
      findings: [{ severity: 'error', node: 'h', path: 'text', message: 'A brace is missing.' }],
    });
    expect(within(lineOf(/Hello/)).getByLabelText('error')).toBeTruthy();
    await userEvent.click(lineOf(/^Hello/));
    expect(desk().selected).toBe('h');
    expect(lineOf(/^Hello/).getAttribute('aria-current')).toBe('true');
  });
});

describe('the envelope as a list of mails shows it', () => {
  it('is filled for this recipient, and a click edits it', async () => {
    await opened(<EnvelopeLine />);
    const line = screen.getByRole('button', { name: /Sender, subject/ });
    expect(line.textContent).toMatch(/^SeedsYour pot It waits\d\d:\d\d$/);
    await userEvent.click(line);
    expect(desk().selected).toBe('envelope');
  });
});

describe('the template at a glance', () => {
  it('tells for whom it is, what it reads, what it weighs and what is wrong', async () => {
    const { worker } = await opened(<AtAGlance template={template} />);
    await worker.say({
      type: 'built',
      findings: [{ severity: 'warning', node: 'h', path: 'text', message: 'It is long.' }],
    });
    await settled();
    expect(screen.getByText('5 people')).toBeTruthy();
    const links = screen.getAllByRole('link').map((link) => link.textContent);
    // What the template does not read, and what is of another shop, is not told.
    expect(links).toEqual(['Events']);
    expect(screen.getByText(/120 KB for this recipient/)).toBeTruthy();
    expect(screen.getByText(/cut off what is over 100 KB/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /It is long/ }));
    expect(desk().selected).toBe('h');
  });
});

describe('the day that a mail is filled for', () => {
  it('is one of the shop, from nine in its morning', async () => {
    await opened(<WhoBar />);
    await settled();
    act(() => void store.dispatch(deskActions.viewed({ asOf: '2026-12-25T05:00:00.000Z' })));
    const day = screen.getByLabelText('Preview date');
    expect(day).toHaveProperty('value', '24 Dec 2026');
    await userEvent.clear(day);
    await userEvent.type(day, '3 Jan 2027');
    await userEvent.tab();
    expect(store.getState().desk.view.asOf).toBe('2027-01-03T19:00:00.000Z');
  });
});

describe('looking for a recipient', () => {
  beforeAll(() => {
    // The list shows what has room.
    for (const side of ['clientHeight', 'clientWidth', 'offsetHeight', 'offsetWidth'] as const)
      Object.defineProperty(HTMLElement.prototype, side, { configurable: true, get: () => 340 });
  });

  it('goes by arrows, and Enter takes the one that they are at', async () => {
    await opened(<WhoSearch />);
    await userEvent.click(screen.getByRole('button', { name: 'Find a recipient' }));
    const chosen = () =>
      screen
        .getAllByRole('option')
        .findIndex((row) => row.getAttribute('aria-selected') === 'true');
    expect(chosen()).toBe(0);
    await userEvent.type(
      screen.getByLabelText('Search recipients'),
      '{ArrowDown}{ArrowDown}{ArrowUp}{ArrowDown}',
    );
    expect(chosen()).toBe(2);
    await userEvent.keyboard('{Enter}');
    expect(desk().index).toBe(2);
  });

  it('is narrowed by what is known of people, and that is kept until it is taken away', async () => {
    const { sent } = await opened(
      <>
        <WhoBar />
        <Canvas />
      </>,
    );
    const asked = () =>
      queryOf(sent.filter((one) => isFor(ENDPOINTS.listRecipients, one)).at(-1) as Sent);
    await userEvent.click(screen.getByRole('button', { name: 'Find a recipient' }));
    await userEvent.click(screen.getByRole('combobox', { name: 'Language' }));
    await userEvent.click(await screen.findByRole('option', { name: 'de-DE (3)' }));
    await userEvent.type(screen.getByLabelText('Lines in cart'), '2');
    await settled();
    expect(asked()).toMatchObject({ language: 'de-DE', lines: '2', offset: '0' });
    act(() => void store.dispatch(deskActions.listed({ recipients: [], total: 0, offset: 0 })));
    expect(
      screen.getByText(/Nobody matches: language de-DE, 2 lines in the cart or more/),
    ).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Show everyone' }));
    await settled();
    expect(asked()['language']).toBeUndefined();
  });

  it('says what to do where nobody fits', async () => {
    await opened(<WhoSearch />);
    act(() => {
      store.dispatch(deskActions.listed({ recipients: [], total: 0, offset: 0 }));
    });
    await userEvent.click(screen.getByRole('button', { name: 'Find a recipient' }));
    expect(screen.getByText(/Nobody matches/)).toBeTruthy();
  });
});

describe('dragging in the outline', () => {
  const rowOf = (says: RegExp) => {
    const row = screen.getByRole('button', { name: says }).parentElement;
    if (!row) throw new Error('A line stands in a row.');
    row.getBoundingClientRect = () => ({ top: 0, height: 20 }) as DOMRect;
    return row;
  };
  const dataTransfer = { setData: () => undefined, effectAllowed: '' };
  /** jsdom's drags know no place: it is told. */
  const drag = (kind: 'dragOver' | 'drop', row: HTMLElement, clientY: number) => {
    const event = createEvent[kind](row, { dataTransfer });
    Object.defineProperty(event, 'clientY', { value: clientY });
    fireEvent(row, event);
  };
  const blocks = () => desk().template?.sections[0]?.columns[0]?.blocks.map(({ id }) => id);

  it('shows where a block would fall, and puts it there', async () => {
    await opened(<Outline />);
    fireEvent.dragStart(rowOf(/^Free/), { dataTransfer });
    const target = rowOf(/^Hello/);
    drag('dragOver', target, 3);
    expect(target.dataset['drop']).toBe('before');
    fireEvent.dragLeave(target, { dataTransfer });
    expect(target.dataset['drop']).toBeUndefined();
    drag('dragOver', target, 3);
    drag('drop', target, 3);
    expect(blocks()).toEqual(['f', 'h', 'l']);
    expect([desk().selected, desk().said]).toEqual(['f', 'Moved: Free.']);
  });

  it('what is selected with it comes along', async () => {
    await opened(<Outline />);
    act(() => void store.dispatch(deskActions.stretched(['l', 'f'])));
    fireEvent.dragStart(rowOf(/^Free/), { dataTransfer });
    const target = rowOf(/^Hello/);
    drag('dragOver', target, 3);
    drag('drop', target, 3);
    expect(blocks()).toEqual(['l', 'f', 'h']);
    expect([desk().also, desk().selected, desk().said]).toEqual([['l'], 'f', 'Moved: 2 parts.']);
  });

  it('nothing falls where it cannot stand, and an else is not dragged by itself', async () => {
    await opened(<Outline />);
    expect(rowOf(/^else Not yet/).draggable).toBe(false);
    const own = rowOf(/^Free/);
    fireEvent.dragStart(own, { dataTransfer });
    for (const says of [/^Free/, /^else Not yet/]) {
      const row = rowOf(says);
      drag('dragOver', row, 3);
      expect(row.dataset['drop']).toBeUndefined();
      drag('drop', row, 3);
    }
    fireEvent.dragEnd(own, { dataTransfer });
    drag('drop', rowOf(/^Hello/), 3);
    expect(blocks()).toEqual(['h', 'l', 'f']);
  });
});
