/** @jest-environment jsdom */
import { act, cleanup } from '@testing-library/react';
import { ENDPOINTS } from '@carafe/contract';
import { blankTemplate, composer, countedIds, edit, type Template } from '@carafe/core/template';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { deskActions } from './deskSlice';
import { unsavedOf } from './unsaved';
import { savesDone, useSave } from './useSave';

const c = composer(countedIds());
const template = blankTemplate('T', 's', [c.section('S', [c.heading('One')])]);
let saveNow = () => undefined as void;
function Saver() {
  saveNow = useSave();
  return null;
}

const desk = () => store.getState().desk;
const rename = (name: string) =>
  act(() => {
    const done = edit(desk().template as Template, 'Rename', (d) => void (d.name = name));
    if (done) store.dispatch(deskActions.changed({ edit: done.edit, now: 0 }));
  });
const nameOf = ({ body }: Sent) => (body as { template: Template }).template.name;
const versionOf = ({ body }: Sent) => (body as { version: number }).version;
/** Lets the pause after the last edit pass, and what was begun end. */
async function rest(): Promise<void> {
  await act(async () => {
    await jest.advanceTimersByTimeAsync(700);
    await savesDone();
  });
}

let opened = 0;
/** Opens a template of version 3 on the desk, over a server that answers so. */
function open(reply: Parameters<typeof fakeServer>[0]) {
  const id = `t${++opened}`;
  const sent = fakeServer(reply);
  store.dispatch(
    deskActions.opened({ stored: { id, version: 3, updated_at: '', template }, having: 'all' }),
  );
  renderPart(<Saver />);
  return { id, sent };
}
const stored = (sent: Sent, version = versionOf(sent) + 1) => ({
  body: {
    id: 'x',
    version,
    updated_at: '',
    template: (sent.body as { template: unknown }).template,
  },
});

beforeEach(() => void jest.useFakeTimers());
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

describe('saving', () => {
  it('waits for a pause, and sends the latest once', async () => {
    const { sent } = open((one) => stored(one));
    rename('A');
    await act(() => jest.advanceTimersByTimeAsync(300));
    rename('AB');
    expect(sent).toEqual([]);
    await rest();
    expect(sent.map(nameOf)).toEqual(['AB']);
    expect(sent.every((one) => isFor(ENDPOINTS.saveTemplate, one))).toBe(true);
    expect([desk().save, desk().version]).toEqual(['saved', 4]);
  });

  it('an edit made while one is saved is saved after it, from the version that it made', async () => {
    let release = () => undefined as void;
    const held = new Promise<void>((done) => (release = done));
    const { sent } = open(async (one) => {
      if (nameOf(one) === 'A') await held;
      return stored(one);
    });
    rename('A');
    await act(() => jest.advanceTimersByTimeAsync(700));
    rename('B');
    await act(() => jest.advanceTimersByTimeAsync(700));
    expect(sent.map(nameOf)).toEqual(['A']);
    release();
    await rest();
    await rest();
    expect(sent.map((one) => [nameOf(one), versionOf(one)])).toEqual([
      ['A', 3],
      ['B', 4],
    ]);
    expect(desk().save).toBe('saved');
  });

  it('what is refused as stale becomes a question, and nothing of it is lost', async () => {
    const current = {
      id: 'x',
      version: 9,
      updated_at: '',
      template: { ...template, name: 'Theirs' },
    };
    open(() => ({ status: 409, body: { ...refusal(409, 'It was changed.').body, current } }));
    rename('Mine');
    await rest();
    expect([desk().save, desk().template?.name, desk().conflict?.template.name]).toEqual([
      'conflict',
      'Mine',
      'Theirs',
    ]);
  });

  it('what could not be saved says why in a sentence, waits on the page, and can be tried again', async () => {
    let fails = true;
    const { sent } = open((one) => (fails ? refusal(500, 'The disk is full.') : stored(one)));
    rename('Mine');
    await rest();
    expect([desk().save, desk().saveMessage]).toEqual(['failed', 'The disk is full.']);
    expect(desk().template?.name).toBe('Mine');
    fails = false;
    await act(async () => {
      saveNow();
      await savesDone();
    });
    expect(desk().save).toBe('saved');
    expect(sent).toHaveLength(2);
  });

  it('a server that cannot be reached is told as that', async () => {
    open(() => Promise.reject(new TypeError('Failed to fetch')));
    rename('Mine');
    await rest();
    expect(desk().saveMessage).toMatch(/cannot be reached. What you typed is safe/);
  });

  it('keeps in the browser what the server does not have when the page goes, until it has', async () => {
    const { id } = open((sent) => stored(sent));
    await rename('Going');
    window.dispatchEvent(new Event('pagehide'));
    expect(unsavedOf(id)).toMatchObject({ version: 3, template: { name: 'Going' } });
    await rest();
    expect(unsavedOf(id)).toBeNull();
    window.dispatchEvent(new Event('pagehide'));
    expect(unsavedOf(id)).toBeNull();
  });

  it('asks before the page goes with what could not be read again', async () => {
    const ask = () => {
      const event = new Event('beforeunload', { cancelable: true });
      window.dispatchEvent(event);
      return event.defaultPrevented;
    };
    open(() => refusal(422, 'Too long.'));
    await rename('Going');
    expect(ask()).toBe(false);
    await rename('x'.repeat(300));
    expect(ask()).toBe(true);
  });

  it('what was kept and cannot be read is passed over', () => {
    localStorage.setItem('carafe unsaved odd', '{"version":1,"template":{"format":"other"}}');
    localStorage.setItem('carafe unsaved cut', '{"version":1,"temp');
    expect([unsavedOf('odd'), unsavedOf('cut')]).toEqual([null, null]);
    expect(localStorage.getItem('carafe unsaved odd')).toBeNull();
  });
});
