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

async function typed(words: string): Promise<void> {
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
  await user.type(screen.getByRole('textbox', { name: 'Search blocks' }), `${words}{Enter}`);
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

it('nothing is added where no block has the words', async () => {
  await typed('zzz');
  expect(screen.getByText(/No block has “zzz” in its name/)).toBeTruthy();
  expect(kinds()).toEqual(['heading']);
});
