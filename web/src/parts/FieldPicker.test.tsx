/** @jest-environment jsdom */
import { useState } from 'react';
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ANY, inferShape, type Shape } from '@carafe/core/shape';
import { renderPart } from '../testing';
import { FieldPicker } from './FieldPicker';

const known = inferShape([{ person: { first_name: 'Maud', city: 'Quill' }, cart: { total: 2 } }]);
let shapeComes: (shape: Shape) => void = () => undefined;
const picked: string[] = [];
function Page({ first }: { first: Shape }) {
  const [shape, setShape] = useState(first);
  shapeComes = setShape;
  return (
    <>
      <FieldPicker shape={shape} onPick={({ path }) => picked.push(path)}>
        <button type="button">Choose</button>
      </FieldPicker>
      <input aria-label="What comes after" />
    </>
  );
}
async function searched(first: Shape, words: string) {
  picked.length = 0;
  renderPart(<Page first={first} />);
  await userEvent.click(screen.getByRole('button', { name: 'Choose' }));
  await userEvent.type(await screen.findByLabelText('Search fields'), words);
}
afterEach(cleanup);

test('Enter takes the first field of those that are found', async () => {
  await searched(known, 'city');
  await userEvent.keyboard('{Enter}');
  expect(picked).toEqual(['person.city']);
});

test('also where the fields come only after the words were typed', async () => {
  await searched(ANY, 'city');
  expect(screen.getByText(/No field has “city”/)).toBeTruthy();
  act(() => shapeComes(known));
  await userEvent.keyboard('{Enter}');
  expect(picked).toEqual(['person.city']);
});

test('arrows choose another', async () => {
  await searched(known, 'a');
  await userEvent.keyboard('{Enter}');
  const [first] = picked;
  cleanup();
  await searched(known, 'a');
  await userEvent.keyboard('{ArrowDown}{Enter}');
  expect(picked).toHaveLength(1);
  expect(picked[0]).not.toBe(first);
});

test('whoever goes on by keyboard leaves it closed behind', async () => {
  await searched(known, 'city');
  act(() => screen.getByLabelText('Fields').focus());
  expect(screen.queryByLabelText('Search fields')).not.toBeNull();
  act(() => screen.getByLabelText('What comes after').focus());
  await waitFor(() => expect(screen.queryByLabelText('Search fields')).toBeNull());
  // A click on what opened it closes it, and does not open it anew.
  await userEvent.click(screen.getByRole('button', { name: 'Choose' }));
  await screen.findByLabelText('Search fields');
  await userEvent.click(screen.getByRole('button', { name: 'Choose' }));
  await waitFor(() => expect(screen.queryByLabelText('Search fields')).toBeNull());
});
