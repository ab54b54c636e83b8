/** @jest-environment jsdom */
import { useState } from 'react';
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPart } from '../testing';
import { Dialog } from './Dialog';
import { SideSheet } from './SideSheet';

type Open = 'mounted' | 'toggled' | 'sheet' | 'form' | null;
const kept = jest.fn();

/** A place with what opens a dialog in each way that dialogs are opened. */
function Place() {
  const [open, setOpen] = useState<Open>(null);
  const [isInner, setInner] = useState(false);
  const [hasLine, setHasLine] = useState(true);
  const close = () => setOpen(null);
  return (
    <main>
      <button onClick={() => setOpen('mounted')}>Mounted</button>
      <button onClick={() => setOpen('toggled')}>Toggled</button>
      {hasLine && <button onClick={() => setOpen('sheet')}>A line</button>}
      <button onClick={() => setOpen('form')}>A form</button>
      {open === 'form' && (
        <SideSheet title="A form" width={400} isForm onClose={close}>
          <input aria-label="Note" />
        </SideSheet>
      )}
      {open === 'mounted' && (
        <Dialog opened onClose={close} title="One">
          <input aria-label="Words" data-autofocus />
          <button onClick={() => setInner(true)}>More</button>
          <button onClick={() => setOpen('toggled')}>Another instead</button>
          {isInner && (
            <Dialog opened onClose={() => setInner(false)} title="Two">
              <input aria-label="Inner words" data-autofocus />
            </Dialog>
          )}
        </Dialog>
      )}
      <Dialog opened={open === 'toggled'} onClose={close} title="Three">
        <input aria-label="Other words" data-autofocus />
      </Dialog>
      {open === 'sheet' && (
        <SideSheet title="A line" width={400} onClose={close}>
          <input aria-label="Name" onBlur={({ target: { value } }) => kept(value)} />
          <button
            onClick={() => {
              setHasLine(false);
              close();
            }}
          >
            Delete
          </button>
        </SideSheet>
      )}
    </main>
  );
}
const button = (name: string) => screen.getByRole('button', { name });
const hasFocus = (element: () => Element | null) =>
  waitFor(() => expect(document.activeElement).toBe(element()));
beforeEach(() => renderPart(<Place />));
afterEach(cleanup);

test.each([
  ['Mounted', 'Words'],
  ['Toggled', 'Other words'],
])('closed, the focus is where it was: %s', async (name, field) => {
  button(name).focus();
  await userEvent.keyboard('{Enter}');
  await hasFocus(() => screen.getByLabelText(field));
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByLabelText(field)).toBeNull());
  await hasFocus(() => button(name));
});

test('of one over another it goes back to the one below, and from there to the place', async () => {
  await userEvent.click(button('Mounted'));
  await hasFocus(() => screen.getByLabelText('Words'));
  await userEvent.click(button('More'));
  await hasFocus(() => screen.getByLabelText('Inner words'));
  await userEvent.keyboard('{Escape}');
  await hasFocus(() => button('More'));
  await userEvent.keyboard('{Escape}');
  await hasFocus(() => button('Mounted'));
});

test('where what opened it is gone, the work goes on in the place', async () => {
  await userEvent.click(button('A line'));
  await userEvent.click(await screen.findByRole('button', { name: 'Delete' }));
  await hasFocus(() => document.querySelector('main'));
});

test('of one that another takes the place of, too', async () => {
  await userEvent.click(button('Mounted'));
  await hasFocus(() => screen.getByLabelText('Words'));
  await userEvent.click(button('Another instead'));
  await hasFocus(() => screen.getByLabelText('Other words'));
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByLabelText('Other words')).toBeNull());
  await hasFocus(() => button('Mounted'));
});

test('opened by a key while nothing had the focus, it is left to nothing again', async () => {
  button('Toggled').focus();
  button('Toggled').blur();
  await act(() => button('Mounted').dispatchEvent(new MouseEvent('click', { bubbles: true })));
  await hasFocus(() => screen.getByLabelText('Words'));
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByLabelText('Words')).toBeNull());
  await new Promise((done) => setTimeout(done));
  expect(document.activeElement).toBe(document.body);
});

test('whoever takes the focus meanwhile keeps it', async () => {
  await userEvent.click(button('Mounted'));
  await hasFocus(() => screen.getByLabelText('Words'));
  await userEvent.keyboard('{Escape}');
  button('Toggled').focus();
  await new Promise((done) => setTimeout(done));
  expect(document.activeElement).toBe(button('Toggled'));
});

test('a field that keeps what it holds when it is left does so at Escape, too', async () => {
  await userEvent.click(button('A line'));
  await userEvent.type(await screen.findByLabelText('Name'), 'Aster');
  await userEvent.keyboard('{Escape}');
  expect(kept).toHaveBeenLastCalledWith('Aster');
  await waitFor(() => expect(screen.queryByLabelText('Name')).toBeNull());
  await hasFocus(() => button('A line'));
});

test('what is written in a form is not thrown away unasked', async () => {
  await userEvent.click(button('A form'));
  await userEvent.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByLabelText('Note')).toBeNull());
  await userEvent.click(button('A form'));
  await userEvent.type(await screen.findByLabelText('Note'), 'Words');
  await userEvent.keyboard('{Escape}');
  await screen.findByText('Close without saving?');
  await hasFocus(() => button('Keep editing'));
  await userEvent.keyboard('{Enter}');
  await hasFocus(() => screen.getByLabelText('Note'));
  await userEvent.keyboard('{Escape}');
  await userEvent.click(await screen.findByRole('button', { name: 'Discard' }));
  await waitFor(() => expect(screen.queryByLabelText('Note')).toBeNull());
  await hasFocus(() => button('A form'));
});
