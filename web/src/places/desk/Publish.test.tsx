/** @jest-environment jsdom */
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS, type Published } from '@carafe/contract';
import { blankTemplate, composer, countedIds, type Template } from '@carafe/core/template';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { deskActions } from './deskSlice';
import { Publish } from './Publish';

const letter = (words: string): Template => {
  const c = composer(countedIds());
  return blankTemplate('Letter', 's', [c.section('One', [c.text(words)])]);
};
const LATEST: Published = { number: 3, at: new Date().toISOString(), note: 'For spring' };

/** The dialog over a draft, where something may be published. */
function shown(draft: Template, published: Template | null, publish = { status: 201, body: {} }) {
  store.dispatch(api.util.resetApiState());
  const stored = { id: 't1', version: 7, updated_at: '2026-11-24T09:00:00Z', template: draft };
  store.dispatch(deskActions.opened({ stored, having: 'all' }));
  const did: string[] = [];
  const sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listPublished, one))
      return { body: { versions: published ? [LATEST] : [] } };
    if (isFor(ENDPOINTS.getPublished, one)) return { body: { ...LATEST, template: published } };
    return isFor(ENDPOINTS.publishTemplate, one) ? publish : {};
  });
  renderPart(<Publish onClose={() => did.push('closed')} />);
  return { sent, did };
}
const published = (sent: Sent[]) =>
  sent.filter((one) => isFor(ENDPOINTS.publishTemplate, one)).map(({ body }) => body);
afterEach(cleanup);

test('what is not published yet is told so, and goes out with its version and note', async () => {
  const { sent, did } = shown(letter('Hello'), null, {
    status: 201,
    body: { ...LATEST, number: 1 },
  });
  expect(await screen.findByText(/^Nothing is published yet/)).toBeTruthy();
  await userEvent.type(screen.getByLabelText('Note'), 'The first');
  await userEvent.click(screen.getByRole('button', { name: 'Publish' }));
  await waitFor(() => expect(did).toEqual(['closed']));
  expect(published(sent)).toEqual([{ version: 7, note: 'The first' }]);
});

test('what the draft has otherwise is told; a refusal stays in words', async () => {
  const { did } = shown(
    letter('As it is now'),
    letter('As it was'),
    refusal(409, 'Changed.') as never,
  );
  expect(await screen.findByText('Changes since version 3')).toBeTruthy();
  expect(screen.getByText('As it was')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Publish' }));
  expect((await screen.findByRole('alert')).textContent).toBe('Changed.');
  expect(did).toEqual([]);
});

test('an earlier one becomes the draft by an edit that can be undone', async () => {
  const { did } = shown(letter('As it is now'), letter('As it was'));
  await userEvent.click(await screen.findByRole('button', { name: 'Restore as the draft' }));
  await waitFor(() => expect(did).toEqual(['closed']));
  const { template, history } = store.getState().desk;
  expect(JSON.stringify(template)).toContain('As it was');
  expect(history.past.at(-1)?.label).toBe('Restore version 3');
  act(() => void store.dispatch(deskActions.undone()));
  expect(JSON.stringify(store.getState().desk.template)).toContain('As it is now');
});
