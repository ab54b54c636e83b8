/** @jest-environment jsdom */
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { fakeServer, settled } from '../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk } from '../../testing/desk';
import { AddBlock } from './AddBlock';

const c = composer(countedIds());
const template = blankTemplate('T', 'seeds', [c.section('S', [c.heading('One', { id: 'h' })])]);
afterEach(cleanup);

async function typed(words: string, then = '{Enter}'): Promise<void> {
  fakeWorker();
  fakeServer(() => ({ body: { total: 0, recipients: [] } }));
  openTemplate(template);
  renderOnDesk(
    <AddBlock after="h">
      <button type="button">Add</button>
    </AddBlock>,
  );
  await settled();
  const user = userEvent.setup({ delay: null });
  await user.click(screen.getByRole('button', { name: 'Add' }));
  await user.type(screen.getByRole('textbox', { name: 'Search blocks' }), words + then);
}
const kinds = () =>
  desk().template?.sections[0]?.columns[0]?.blocks.map(({ kind }) => kind as string);

it.each([
  ['links', 'links'],
  ['menu', 'menu'],
  ['but', 'button'],
  ['li', 'lines'],
])('Enter takes the first block that is seen for “%s”', async (words, kind) => {
  await typed(words);
  expect(kinds()).toEqual(['heading', kind]);
});

it.each([
  ['product', 'Product notes'],
  ['products', 'Cards'],
  ['basket', 'Lines'],
  ['logo', 'Picture'],
  ['blog', 'Posts'],
  ['voucher', 'Coupon'],
  ['social', 'Links'],
  ['footer', 'Footer'],
  ['headline', 'Heading'],
  ['picture play', 'Video'],
])('what people call it finds it: “%s”', async (words, name) => {
  await typed(words, '');
  expect(screen.getAllByRole('option')[0]?.textContent).toMatch(new RegExp(`^${name} `));
});

it.each([
  ['col', 2],
  ['columns', 2],
  ['three col', 3],
  ['4 columns', 4],
  ['section', 1],
])('“%s” adds a section of as many columns behind the one that is worked on', async (words, n) => {
  await typed(words);
  const sections = desk().template?.sections ?? [];
  expect(sections).toHaveLength(2);
  expect(sections[1]?.columns.map(({ blocks }) => blocks.length)).toEqual(
    Array.from({ length: n }, (_, i) => (i === 0 ? 1 : 0)),
  );
});

it('nothing is added where no block has the words', async () => {
  await typed('zzz');
  expect(screen.getByText(/No block matches “zzz”/)).toBeTruthy();
  expect(kinds()).toEqual(['heading']);
});
