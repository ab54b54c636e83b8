/** @jest-environment jsdom */
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { ENDPOINTS } from '@carafe/contract';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart } from '../../testing';
import { ConflictDialog } from './ConflictDialog';
import { deskActions } from './deskSlice';

const c = composer(countedIds());
const mine = blankTemplate('Mine', 's', [c.section('S', [c.heading('One')])]);
const theirs = { ...mine, name: 'Theirs' };
const desk = () => store.getState().desk;
const button = (name: string) => screen.getByRole('button', { name });

beforeEach(() => {
  jest.useFakeTimers();
  store.dispatch(
    deskActions.opened({
      stored: { id: 'x', version: 3, updated_at: '', template: mine },
      having: 'all',
    }),
  );
  store.dispatch(deskActions.conflicted({ id: 'x', conflict: { version: 7, template: theirs } }));
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});
const shown = () => renderPart(<ConflictDialog />);
const pause = (milliseconds = 900) => act(() => jest.advanceTimersByTimeAsync(milliseconds));

describe('a template that was changed elsewhere', () => {
  it('tells what differs', () => {
    shown();
    expect(screen.getByRole('region', { name: 'What differs' }).textContent).toContain(
      'Name Mine → Theirs',
    );
  });

  it('takes no answer from keys that were on their way', async () => {
    shown();
    expect(button('Use the other version')).toHaveProperty('disabled', true);
    await pause(700);
    fireEvent.keyDown(document.body, { key: 'a' });
    await pause(700);
    expect(button('Use the other version')).toHaveProperty('disabled', true);
    await pause();
    expect(button('Use the other version')).toHaveProperty('disabled', false);
    expect(desk().save).toBe('conflict');
  });

  it('can be left for later, and come back to', async () => {
    shown();
    await pause();
    fireEvent.click(button('Decide later'));
    await pause();
    expect(desk()).toMatchObject({ save: 'conflict', template: { name: 'Mine' } });
    fireEvent.click(button('Resolve'));
    expect(screen.getByRole('dialog')).toBeDefined();
  });

  it.each([
    ['Use the other version', 'Theirs', 'saved'],
    ['Use my version', 'Mine', 'waiting'],
  ])('“%s” does that', async (name, title, save) => {
    shown();
    await pause();
    fireEvent.click(button(name));
    expect(desk()).toMatchObject({ conflict: null, save, version: 7, template: { name: title } });
  });

  it('keeps both where that is asked for; where that fails it says why and stays', async () => {
    let fails = true;
    const sent = fakeServer(({ body }) =>
      fails
        ? refusal(500, 'The disk is full.')
        : { body: { id: 'y', version: 1, updated_at: '', ...(body as object) } },
    );
    shown();
    await pause();
    jest.useRealTimers();
    fireEvent.click(button('Use mine, keep the other as a copy'));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('The disk is full.'));
    expect(desk().conflict).not.toBeNull();
    fails = false;
    fireEvent.click(button('Use mine, keep the other as a copy'));
    await waitFor(() => expect(desk().conflict).toBeNull());
    expect(desk().template?.name).toBe('Mine');
    const last = sent.filter((one) => isFor(ENDPOINTS.createTemplate, one)).at(-1);
    expect((last?.body as { template: { name: string } }).template.name).toBe(
      'Theirs (other version)',
    );
  });
});
