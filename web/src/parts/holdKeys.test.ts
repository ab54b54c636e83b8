/** @jest-environment jsdom */
import { holdKeys } from './holdKeys';

let field: HTMLInputElement;
let desk: string[];
const onDesk = (event: KeyboardEvent) => void desk.push(event.key);
beforeEach(() => {
  jest.useFakeTimers();
  desk = [];
  document.body.innerHTML = '<input id="before" /><input id="field" />';
  field = document.querySelector('#field') as HTMLInputElement;
  window.addEventListener('keydown', onDesk);
});
afterEach(() => {
  // Whatever is still held is let go.
  window.dispatchEvent(new Event('pointerdown'));
  window.removeEventListener('keydown', onDesk);
  jest.useRealTimers();
});

const press = (...keys: string[]) => {
  for (const key of keys)
    (document.activeElement ?? document.body).dispatchEvent(
      new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
    );
};

test('what is typed before the field is there is typed into it, and nothing of it is a key of the desk', async () => {
  holdKeys();
  press('b', 'c', 'x', 'Backspace', ' ');
  field.focus();
  press('d');
  await jest.advanceTimersByTimeAsync(10);
  expect(field.value).toBe('bc d');
  expect(desk).toEqual([]);
  press('e');
  expect(desk).toEqual(['e']);
});

test('Enter comes after the letters before it, when a list has followed them', async () => {
  const said: string[] = [];
  field.addEventListener('input', () => said.push(field.value));
  field.addEventListener('keydown', ({ key }) => said.push(key));
  holdKeys();
  press('a', 'b', 'Enter', 'c');
  field.focus();
  await jest.advanceTimersByTimeAsync(200);
  expect(said).toEqual(['ab', 'Enter', 'abc']);
});

test('End is meant for what opens, also before any letter; arrows go on', async () => {
  holdKeys({ mayStayShut: true });
  press('End', 'b');
  field.value = 'Here.';
  field.focus();
  field.setSelectionRange(0, 5);
  await jest.advanceTimersByTimeAsync(100);
  expect(field.value).toBe('Here.b');
  expect([field.selectionStart, field.selectionEnd]).toEqual([6, 6]);
  expect(desk.filter((key) => key !== 'End')).toEqual([]);

  holdKeys({ mayStayShut: true });
  press('ArrowDown', 'b');
  expect(desk.slice(-2)).toEqual(['ArrowDown', 'b']);
});

test('a field that had the focus before is not the one that is waited for', async () => {
  document.querySelector<HTMLInputElement>('#before')?.focus();
  holdKeys();
  press('a');
  field.focus();
  await jest.advanceTimersByTimeAsync(10);
  expect(document.querySelector<HTMLInputElement>('#before')?.value).toBe('');
  expect(field.value).toBe('a');
});

test.each([
  ['a while', () => jest.advanceTimersByTime(5_100)],
  ['the mouse', () => window.dispatchEvent(new Event('pointerdown'))],
])('where nothing opens, %s ends it; keys with Ctrl are never held', (_, ends) => {
  holdKeys();
  press('a');
  window.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true }));
  expect(desk).toEqual(['z']);
  ends();
  press('b');
  expect(desk).toEqual(['z', 'b']);
});

test('where it may be that nothing opens, arrows go on; behind a letter they wait with it', () => {
  holdKeys({ mayStayShut: true });
  press('ArrowDown', 'j');
  expect(desk).toEqual(['ArrowDown', 'j']);
  holdKeys({ mayStayShut: true });
  press('a', 'ArrowDown');
  expect(desk).toEqual(['ArrowDown', 'j']);
});
