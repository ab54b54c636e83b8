/** @jest-environment jsdom */
import { act, cleanup, screen } from '@testing-library/react';
import { blankTemplate } from '@carafe/core/template';
import { fakeServer } from '../../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk } from '../../../testing/desk';
import { EnvelopeForm } from './EnvelopeForm';

/** A line of words, whose editor takes no keys here: what it says is put into it as it would be by hand. */
function write(label: string, words: string): void {
  const line = screen.getByRole('textbox', { name: label }) as HTMLElement & {
    editor: { commands: { setContent: (html: string, how: object) => void } };
  };
  act(() =>
    line.editor.commands.setContent(words === '' ? '' : `<p>${words}</p>`, { emitUpdate: true }),
  );
}

beforeEach(() => {
  globalThis.EventSource = class {
    close() {}
  } as never;
  fakeServer(() => ({ body: { recipients: [], shops: [], total: 0 } }));
  fakeWorker();
  openTemplate(blankTemplate('The bench', 's', []));
  renderOnDesk(<EnvelopeForm />);
});
afterEach(cleanup);

test('the recipient’s name is written in the envelope, and is no part of it when it is empty again', () => {
  expect(desk().template?.envelope).not.toHaveProperty('to_name');
  write('Recipient name', 'Dear you');
  expect(desk().template?.envelope.to_name).toBe('Dear you');
  write('Recipient name', '');
  expect(desk().template?.envelope).not.toHaveProperty('to_name');
});

test('an empty sender or preview text stays a part of the envelope', () => {
  write('Sender name', '');
  expect(desk().template?.envelope.from_name).toBe('');
  write('Preview text', 'Look inside');
  expect(desk().template?.envelope.preview_text).toBe('Look inside');
});
