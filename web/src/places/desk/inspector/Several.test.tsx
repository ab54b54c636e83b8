/** @jest-environment jsdom */
import { act, cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { store } from '../../../app/store';
import { fakeServer, settled } from '../../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk } from '../../../testing/desk';
import { deskActions } from '../deskSlice';
import { Inspector } from './Inspector';

const c = composer(countedIds());
const template = blankTemplate('T', 's', [
  c.section(
    'First',
    ['One', 'Two', 'Three'].map((words) => c.heading(words, { id: words })),
    { id: 's1' },
  ),
]);
const stretch = (...ids: string[]) => act(() => void store.dispatch(deskActions.stretched(ids)));
const blocks = () =>
  desk().template?.sections.map(({ columns }) => columns[0]?.blocks.map((block) => block.kind));
const user = userEvent.setup({ delay: null });
const choose = async (name: RegExp) => {
  await user.click(screen.getByRole('button', { name: 'Copy, paste, group' }));
  await user.click(await screen.findByRole('menuitem', { name }));
};

beforeEach(async () => {
  globalThis.EventSource = class {
    close() {}
  } as never;
  fakeServer(() => ({ body: { recipients: [], total: 0 } }));
  fakeWorker();
  openTemplate(template);
  renderOnDesk(<Inspector />);
  await settled();
});
afterEach(cleanup);

test('several parts are told as several, and what is done is done to all of them', async () => {
  stretch('One', 'Two');
  expect(screen.getByRole('heading', { name: '2 parts selected' })).toBeTruthy();
  const all = within(screen.getByRole('list'));
  expect(all.getAllByRole('button').map((one) => one.textContent)).toEqual(['One', 'Two']);
  expect(screen.queryByRole('textbox')).toBeNull();
  await user.click(screen.getByRole('button', { name: /^Delete/ }));
  expect(blocks()).toEqual([['heading']]);
});

test('one of them is selected alone again', async () => {
  stretch('One', 'Two');
  await user.click(screen.getByRole('button', { name: 'One' }));
  expect([desk().selected, desk().also]).toEqual(['One', []]);
  expect(screen.getByRole('heading', { name: 'Heading' })).toBeTruthy();
});

test('an end of what can be moved is known for all of them', () => {
  stretch('One', 'Two');
  expect(screen.getByRole('button', { name: /^Move up/ })).toHaveProperty('disabled', true);
  expect(screen.getByRole('button', { name: /^Move down/ })).toHaveProperty('disabled', false);
  stretch('Two', 'Three');
  expect(screen.getByRole('button', { name: /^Move down/ })).toHaveProperty('disabled', true);
});

test('they are put into a group or a section by mouse, and a group is taken apart', async () => {
  stretch('One', 'Two');
  await choose(/^Group/);
  expect(blocks()).toEqual([['group', 'heading']]);
  await choose(/^Ungroup/);
  expect(blocks()).toEqual([['heading', 'heading', 'heading']]);
  stretch('Two', 'Three');
  await choose(/^Move to its own/);
  expect(blocks()).toEqual([['heading'], ['heading', 'heading']]);
});

test('a section with what stands in it is one part, is copied, and has no group', async () => {
  stretch('s1', 'One');
  expect(screen.getByRole('heading', { name: 'Section' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Copy, paste, group' }));
  expect(await screen.findByRole('menuitem', { name: /^Copy/ })).toBeTruthy();
  expect(screen.queryByRole('menuitem', { name: /^Group/ })).toBeNull();
});
