/** @jest-environment jsdom */
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { blankTemplate } from '@carafe/core/template';
import { fakeServer } from '../../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk } from '../../../testing/desk';
import { LinkTags } from './LinkTags';

beforeEach(() => {
  globalThis.EventSource = class {
    close() {}
  } as never;
  fakeServer(() => ({ body: { recipients: [], total: 0 } }));
  fakeWorker();
  openTemplate(blankTemplate('The bench', 's', []));
  renderOnDesk(<LinkTags />);
});
afterEach(cleanup);

test('links are tagged with source, medium and name; a parameter is renamed, and one deleted', async () => {
  const user = userEvent.setup({ delay: null });
  await user.click(screen.getByRole('button', { name: 'Tag the links' }));
  expect(desk().template?.link_tags).toEqual([
    { parameter: 'source', value: '{{ shop.name }}' },
    { parameter: 'medium', value: 'email' },
    { parameter: 'name', value: 'The bench' },
  ]);
  const [first] = screen.getAllByLabelText('Parameter');
  await user.clear(first as HTMLElement);
  await user.type(first as HTMLElement, 'not one');
  await user.tab();
  expect(desk().template?.link_tags?.[0]?.parameter).toBe('source');
  await user.clear(first as HTMLElement);
  await user.type(first as HTMLElement, 'from');
  await user.tab();
  expect(desk().template?.link_tags?.[0]?.parameter).toBe('from');
  for (const name of ['from', 'medium', 'name'])
    await user.click(screen.getByRole('button', { name: `Delete ${name}` }));
  expect(desk().template?.link_tags).toBeUndefined();
});
