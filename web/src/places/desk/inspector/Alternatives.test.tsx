/** @jest-environment jsdom */
import { useEffect, useState } from 'react';
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { blankTemplate, composer, countedIds, edit } from '@carafe/core/template';
import type { Survey } from '@carafe/core/variant';
import { api } from '../../../app/api';
import { store } from '../../../app/store';
import { fakeServer, isFor } from '../../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk } from '../../../testing/desk';
import { deskActions } from '../deskSlice';
import { EveryoneProvider, useEveryone } from '../everyone/useSurvey';
import { Alternatives } from './Alternatives';

const c = composer(countedIds());
const gift = c.text('A gift', {
  ...{ id: 'gift', when: 'cart.total > 50' },
  else: c.text('Postage', { id: 'postage' }),
});
const template = blankTemplate('T', 's', [c.section('Words', [gift])]);
/** What the gift's condition was for some: 1 held, 2 did not. */
const key = (held: 1 | 2) => String.fromCharCode(held + 35);
const survey: Survey = {
  decisions: [{ kind: 'condition', node: 'gift', path: 'when', formula: 'cart.total > 50' }],
  ...{ people: 1373, addresses: [], products: {}, broken: [], facts: {} },
  variants: [
    { key: key(1), people: 1240, person: 1 },
    { key: key(2), people: 133, person: 2 },
  ],
};

/** Looks at everybody once, and closes that when all were looked at, as whoever goes back to a block does. */
function Surveyed() {
  const { open, setOpen, whole } = useEveryone();
  const [done, setDone] = useState(false);
  useEffect(() => setOpen(!done), [setOpen, done]);
  useEffect(() => {
    if (whole) setDone(true);
  }, [whole]);
  return <output>{open ? 'open' : 'closed'}</output>;
}
function shown(looked: boolean): void {
  store.dispatch(api.util.resetApiState());
  globalThis.EventSource = class {
    close() {}
  } as never;
  fakeServer((sent) => {
    if (isFor(ENDPOINTS.survey, sent))
      return { body: { survey, looked: 1373, people: 1373, next: null } };
    if (isFor(ENDPOINTS.checkTemplate, sent)) return { body: { findings: [], labels: {} } };
    if (!isFor(ENDPOINTS.audience, sent)) return { body: {} };
    const { formula } = sent.body as { formula: string };
    return { body: { holds: formula.startsWith('not') ? 20_000 : 5_000, of: 25_000 } };
  });
  fakeWorker();
  openTemplate(template);
  renderOnDesk(
    <EveryoneProvider>
      {looked && <Surveyed />}
      <Alternatives node={gift} />
    </EveryoneProvider>,
  );
}
const told = () => screen.getAllByRole('button').map(({ textContent }) => textContent);
afterEach(cleanup);

test('each alternative tells its share of all people, and is chosen by a click', async () => {
  shown(false);
  await waitFor(() =>
    expect(told()).toEqual(['A giftif · 20 % of all', 'Postageotherwise · 80 % of all']),
  );
  await userEvent.click(screen.getByRole('button', { name: /Postage/ }));
  expect(desk().selected).toBe('postage');
});

test('where everybody was looked at it is told of those who get the mail', async () => {
  shown(true);
  await waitFor(() =>
    expect(told()).toEqual(['A giftif · 1,240 of 1,373', 'Postageotherwise · 133 of 1,373']),
  );
  await waitFor(() => expect(screen.getByRole('status').textContent).toBe('closed'));
  expect(told()[0]).toContain('1,240 of 1,373');
});

test('once the template is another, or people are, it is of all people again', async () => {
  shown(true);
  await screen.findByText(/1,240 of 1,373/);
  const done = edit(template, 'Rename', (draft) => void (draft.name = 'Another'));
  act(() => void (done && store.dispatch(deskActions.changed({ edit: done.edit, now: 0 }))));
  await screen.findByText(/20 % of all/);
});
