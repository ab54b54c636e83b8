/** @jest-environment jsdom */
import { createRef, type RefObject } from 'react';
import { act, cleanup, screen } from '@testing-library/react';
import { inferShape } from '@carafe/core/shape';
import { renderPart } from '../../testing';
import { ScopeProvider } from './scope';
import { TagList } from './TagList';

const shape = inferShape([{ person: { first_name: 'Maud', city: 'Quill' }, cart: { total: 2.5 } }]);
type Keys = RefObject<((event: KeyboardEvent) => boolean) | null>;
const put: string[] = [];
const words = document.createElement('div');

function asked(query: string): (key: string) => boolean {
  put.length = 0;
  const keys: Keys = createRef();
  const at = { left: 0, top: 0, height: 20 };
  renderPart(
    <ScopeProvider value={{ shape, frames: [], context: null }}>
      <TagList asked={{ query, at, words, put: (formula) => void put.push(formula) }} keys={keys} />
    </ScopeProvider>,
  );
  return (key) => {
    let isTaken = false;
    act(() => void (isTaken = keys.current?.(new KeyboardEvent('keydown', { key })) ?? false));
    return isTaken;
  };
}
afterEach(cleanup);

test('Enter puts in the first field that is meant, printed as such fields are', () => {
  const press = asked('cart total');
  expect(screen.getByRole('status').textContent).toBe('1 field: arrow keys choose, Enter inserts.');
  expect(press('Enter')).toBe(true);
  expect(put).toEqual(['money(cart.total)']);
});

test('where nothing was named, Enter is the words’ own until the arrows have chosen', () => {
  const press = asked('');
  expect(press('Enter')).toBe(false);
  expect(press('ArrowDown')).toBe(true);
  expect(press('Tab')).toBe(true);
  expect(put).toHaveLength(1);
});

test('while no field is meant, all keys are the words’ own, and Escape is that of what they stand in', () => {
  const press = asked('nothing of that name');
  expect(screen.queryByRole('listbox')).toBeNull();
  for (const key of ['Enter', 'Tab', 'ArrowDown', 'Escape']) expect(press(key)).toBe(false);
  expect(words.hasAttribute('data-mantine-stop-propagation')).toBe(false);
});

test('while fields stand there, Escape is the list’s own, until it is gone', () => {
  const press = asked('city');
  expect(words.hasAttribute('data-mantine-stop-propagation')).toBe(true);
  expect(press('Escape')).toBe(true);
  cleanup();
  expect(words.hasAttribute('data-mantine-stop-propagation')).toBe(false);
});
