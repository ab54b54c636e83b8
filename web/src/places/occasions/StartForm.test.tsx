/** @jest-environment jsdom */
import { useState } from 'react';
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { FIRST_RULES, STARTS, type Start } from '@carafe/core/occasion';
import { inferShape } from '@carafe/core/shape';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, renderPart } from '../../testing';
import { StartForm } from './StartForm';

const shape = inferShape(
  ['Sent', 'Being packed'].map((status) => ({
    person: { email: 'a@b.example', joined: new Date('2026-01-01'), birthday: new Date(0) },
    order: { status, lines: [{ product: { category: 'Bulbs' } }] },
  })),
);
const TOMORROW = 1_440;
let start: Start;
function shown(first: Start) {
  fakeServer((one) =>
    isFor(ENDPOINTS.clock, one)
      ? { body: { now: '2026-11-24T09:00:00Z', moved: TOMORROW } }
      : { body: {} },
  );
  function Page() {
    const [value, setValue] = useState(first);
    start = value;
    return (
      <StartForm
        {...{ shape, rules: FIRST_RULES, segments: [], feeds: [] }}
        shop="s"
        zone="Europe/London"
        start={value}
        onChange={setValue}
      />
    );
  }
  renderPart(<Page />);
}
beforeEach(() => {
  store.dispatch(api.util.resetApiState());
});
afterEach(cleanup);

test.each<[Start, string, string, object]>([
  [STARTS.order_status.make(0), 'The status', 'Being packed', { status: 'Being packed' }],
  [STARTS.date_of_person.make(0), 'The field', 'birthday', { field: 'birthday' }],
  [
    { ...STARTS.order_placed.make(0), which: 'category', category: '' } as Start,
    ...(['of the category', 'Bulbs', { category: 'Bulbs' }] as const),
  ],
])('what the shop’s data tell is offered: %j', async (first, question, answer, told) => {
  const user = userEvent.setup();
  shown(first);
  const field = screen.getByLabelText(question, { selector: 'input' });
  await user.clear(field);
  await user.click(await screen.findByRole('option', { name: answer }));
  expect(start).toMatchObject(told);
  // Something else may be written as well, and is taken when the field is left.
  await user.clear(field);
  await user.type(field, '  Something else ');
  await user.tab();
  expect(Object.values(start)).toContain('Something else');
});

test('what stands there narrows nothing, what is typed does', async () => {
  const user = userEvent.setup();
  shown(STARTS.order_status.make(0));
  const field = screen.getByLabelText('The status', { selector: 'input' });
  await user.click(field);
  expect((await screen.findAllByRole('option')).map(({ textContent }) => textContent)).toEqual([
    ...['Sent', 'Being packed'],
  ]);
  await user.clear(field);
  await user.type(field, 'PACK');
  expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toEqual([
    'Being packed',
  ]);
});

test('a point in time begins with the day after the one that the server has', async () => {
  const user = userEvent.setup();
  shown(STARTS.order_status.make(0));
  await user.click(screen.getByRole('combobox', { name: 'What starts it' }));
  await user.click(await screen.findByRole('option', { name: 'Once, at a time' }));
  const day = new Date(Date.now() + 2 * 86_400_000).toISOString().slice(0, 10);
  expect(start).toEqual({ kind: 'at_time', time: `${day}T09:00`, clock: 'shop' });
});

test('a mail of one day whose time is past goes again next week, or in five minutes', async () => {
  const user = userEvent.setup();
  shown({ kind: 'at_time', time: '2026-11-20T08:00', clock: 'shop' });
  expect(await screen.findByText('This time has passed.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Again next week' }));
  const { time } = start as Start & { kind: 'at_time' };
  const week = 7 * 86_400_000;
  expect((Date.parse(`${time}Z`) - Date.parse('2026-11-20T08:00Z')) % week).toBe(0);
  expect(Date.parse(`${time}Z`)).toBeGreaterThan(Date.now());
  expect(screen.queryByText('This time has passed.')).toBeNull();
  expect(screen.queryByRole('button', { name: 'Again next week' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'In five minutes' }));
  const soon = Date.parse(`${(start as Start & { kind: 'at_time' }).time}Z`);
  expect(soon).toBeLessThan(Date.parse(`${time}Z`));
});
