/** @jest-environment jsdom */
import { act, cleanup } from '@testing-library/react';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { store } from '../../app/store';
import { renderPart } from '../../testing';
import { desk, openTemplate } from '../../testing/desk';
import { deskActions } from './deskSlice';
import { useClipboard } from './useClipboard';

const c = composer(countedIds());
const template = blankTemplate('T', 's', [
  c.section('S', [c.text('One', { id: 'a' }), c.text('Two', { id: 'b' })]),
]);
function Listens() {
  useClipboard();
  return <input aria-label="A field" />;
}
const blocks = () => desk().template?.sections[0]?.columns[0]?.blocks.map(({ id }) => id) ?? [];
/** Sends a clipboard event; gives what lies on the clipboard after it. */
function clip(kind: 'copy' | 'cut' | 'paste', text = '', target: Element = document.body): string {
  let held = text;
  const event = new Event(kind, { bubbles: true, cancelable: true });
  const clipboardData = {
    getData: (type: string) => (type === 'text/plain' ? held : ''),
    setData: (_: string, to: string) => (held = to),
  };
  Object.assign(event, { clipboardData });
  act(() => void target.dispatchEvent(event));
  return held;
}
beforeEach(() => {
  openTemplate(template);
  renderPart(<Listens />);
  act(() => void store.dispatch(deskActions.selected('a')));
});
afterEach(cleanup);

it('a block is copied and pasted behind the selection, with an id of its own', () => {
  const held = clip('copy');
  clip('paste', held);
  expect(blocks()).toHaveLength(3);
  expect(desk().selected).toBe(blocks()[1]);
  expect(desk().said).toMatch(/^Pasted: One/);
});

it('what is cut leaves, and what stood beside it is selected', () => {
  const held = clip('cut');
  expect([blocks(), desk().selected]).toEqual([['b'], 'b']);
  clip('paste', held);
  expect(blocks()).toHaveLength(2);
});

it('words from elsewhere become a text block; a field keeps its own clipboard', () => {
  clip('paste', 'Hello {{ person.first_name }}');
  expect(JSON.stringify(desk().template)).toContain('"formula":"person.first_name"');
  const field = document.querySelector('input');
  if (!field) throw new Error('There is a field.');
  clip('paste', 'more', field);
  expect(blocks()).toHaveLength(3);
  expect(clip('copy', 'mine', field)).toBe('mine');
});
