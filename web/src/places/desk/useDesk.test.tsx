/** @jest-environment jsdom */
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import { ENDPOINTS } from '@carafe/contract';
import type { SiteFinding } from '@carafe/core/check';
import { blankTemplate, composer, countedIds, edit } from '@carafe/core/template';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, settled, type Sent } from '../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk, somePeople } from '../../testing/desk';
import { deskActions } from './deskSlice';
import { useDesk } from './useDesk';
import { joinFindings } from './useFindings';
import type { Filled } from './worker/messages';
import { prepareWorker, tellAhead } from './worker/spare';

const c = composer(countedIds());
const template = blankTemplate('T', 'seeds', [c.section('S', [c.heading('One', { id: 'h' })])]);
const PEOPLE = somePeople(450);

/** What the desk's parts are given, in words. */
function Said() {
  const { filled, record, person, findings, problem, asOf } = useDesk();
  return (
    <p data-testid="said">
      {JSON.stringify({
        subject: filled?.mail.subject ?? null,
        greeted: record?.['person'] ?? null,
        person,
        findings: findings.map((f) => f.message),
        problem,
        asOf: asOf.toISOString().slice(0, 10),
      })}
    </p>
  );
}
const said = () =>
  JSON.parse(screen.getByTestId('said').textContent ?? '') as { [k: string]: unknown };
const queryOf = ({ path }: Sent) => Object.fromEntries(new URLSearchParams(path.split('?')[1]));
const filledFor = (person: number): Filled =>
  ({
    person,
    turn: 1,
    mail: { subject: `For ${person}`, html: '', text: '' },
    trail: [],
    formulas: [],
    own: { person: { id: person } },
  }) as unknown as Filled;

async function opened() {
  const worker = fakeWorker();
  const sent = fakeServer((one) => {
    if (!isFor(ENDPOINTS.listRecipients, one)) return { body: { recipients: [PEOPLE[1]] } };
    const { offset = '0', limit = '0' } = queryOf(one);
    const from = Number(offset);
    return { body: { total: 450, recipients: PEOPLE.slice(from, from + Number(limit)) } };
  });
  openTemplate(template);
  renderOnDesk(<Said />);
  await settled();
  return { worker, sent: () => sent.filter((one) => isFor(ENDPOINTS.listRecipients, one)) };
}
const flip = (to: number) => act(() => void store.dispatch(deskActions.flipped(to)));
afterEach(cleanup);

describe('the desk asks for recipients', () => {
  it('a page at a time, and for the next one before the end of the list is reached', async () => {
    const { sent } = await opened();
    expect(desk().recipients).toHaveLength(200);
    await flip(150);
    await settled();
    expect(sent()).toHaveLength(1);
    await flip(185);
    await settled();
    expect(queryOf(sent()[1] as Sent)).toMatchObject({ offset: '200' });
    expect(desk().recipients.map(({ id }) => id)).toEqual(PEOPLE.slice(0, 400).map((p) => p.id));
  });

  it('anew from the start when others are looked for', async () => {
    const { sent } = await opened();
    act(() => void store.dispatch(deskActions.searched({ search: 'maud' })));
    await settled();
    expect(queryOf(sent().at(-1) as Sent)).toMatchObject({ q: 'maud', offset: '0' });
    expect(desk().index).toBe(0);
  });

  it('and an answer to an earlier question never takes the place of a later one', async () => {
    const answers: (() => void)[] = [];
    fakeWorker();
    fakeServer(
      (one) =>
        new Promise((resolve) => {
          const words = queryOf(one)['q'] ?? '';
          const recipients = [{ ...PEOPLE[0], name: words || 'everyone' }];
          answers.push(() => resolve({ body: { total: 1, recipients } }));
        }),
    );
    openTemplate(template);
    renderOnDesk(<Said />);
    act(() => void store.dispatch(deskActions.searched({ search: 'late' })));
    await settled();
    answers[1]?.();
    await settled();
    answers[0]?.();
    await settled();
    expect(desk().recipients[0]?.name).toBe('late');
  });

  it('and says why when there is no answer', async () => {
    fakeWorker();
    fakeServer(() => refusal(503, 'The shop is being read.'));
    openTemplate(template);
    renderOnDesk(<Said />);
    await settled();
    expect(said()['problem']).toBe('The shop is being read.');
  });
});

describe('what the worker is told and tells', () => {
  it('is where the mail that is looked at is cut off, as an error of that part', async () => {
    const { worker } = await opened();
    const cut = { by: 'repeats', node: 'h', path: 'loop' } as const;
    worker.say({ type: 'filled', filled: { ...filledFor(1), cut } });
    await settled();
    expect(said()['findings']).toEqual([
      expect.stringMatching(/^This email is cut off at “One”: an email can repeat at most 20,000/),
    ]);
    worker.say({ type: 'filled', filled: { ...filledFor(1), turn: 2, cut: null } });
    await settled();
    expect(said()['findings']).toEqual([]);
  });

  it('is whom to fill for, with those near by, and the day', async () => {
    const { worker } = await opened();
    await flip(30);
    act(() => void store.dispatch(deskActions.viewed({ asOf: '2026-12-24T14:00:00.000Z' })));
    await settled();
    const last = worker.told.filter((m) => m.type === 'show').at(-1);
    const asOf = '2026-12-24T14:00:00.000Z';
    expect(last).toMatchObject({ shown: { person: 31, asOf, isChosen: true } });
    const near = last?.type === 'show' ? (last.shown?.near ?? []) : [];
    expect([near[0], near.at(-1)]).toEqual([11, 51]);
    expect(said()['asOf']).toBe('2026-12-24');
  });

  it('a mail that comes late, for somebody who is no longer shown, is not shown', async () => {
    const { worker } = await opened();
    await worker.say({ type: 'filled', filled: filledFor(1) });
    expect(said()['subject']).toBe('For 1');
    await flip(1);
    await worker.say({ type: 'filled', filled: filledFor(1) });
    await worker.say({
      type: 'shared',
      library: { formulas: [], notes: [] },
      shared: { today: '2026-11-01' } as never,
    });
    // Nor is one person's record ever another's: it is told whose it is, and it goes when the mail takes long.
    expect(said()).toMatchObject({ greeted: { id: 1 }, person: 1 });
    await waitFor(() => expect(said()).toMatchObject({ greeted: null, person: 2 }));
    await worker.say({ type: 'filled', filled: filledFor(2) });
    expect(said()).toMatchObject({ subject: 'For 2', greeted: { id: 2 }, person: 2 });
  });

  it('a template that went ahead is told once; what the worker said meanwhile is heard, and an undo is told', async () => {
    const worker = fakeWorker();
    fakeServer(() => ({ body: { total: 0, recipients: [] } }));
    openTemplate(template);
    const opened = store.getState().desk.template ?? template;
    prepareWorker();
    tellAhead(opened)(opened);
    await worker.say({ type: 'problem', message: 'The shop is gone.' });
    renderOnDesk(<Said />);
    await settled();
    const templates = () => worker.told.filter((m) => m.type === 'template');
    expect(templates()).toHaveLength(1);
    expect(said()['problem']).toBe('The shop is gone.');
    expect(worker.running()).toBe(1);
    const renamed = edit(opened, 'Rename', (draft) => void (draft.name = 'Another'));
    if (!renamed) throw new Error('Nothing was renamed.');
    act(() => void store.dispatch(deskActions.changed({ edit: renamed.edit, now: 0 })));
    await settled();
    act(() => void store.dispatch(deskActions.undone()));
    await settled();
    expect(templates().map((m) => m.template.name)).toEqual(['T', 'Another', 'T']);
  });

  it('a template that was read as another than the one that went ahead is told as it was read', async () => {
    const worker = fakeWorker();
    fakeServer(() => ({ body: { total: 0, recipients: [] } }));
    openTemplate(template);
    const opened = store.getState().desk.template ?? template;
    tellAhead({ ...opened, name: 'As it was stored' })(opened);
    renderOnDesk(<Said />);
    await settled();
    const templates = worker.told.filter((m) => m.type === 'template');
    expect(templates.map((m) => m.template.name)).toEqual(['As it was stored', 'T']);
  });

  it('people who did something in the shop stand in the list as they are now', async () => {
    const { worker } = await opened();
    await worker.say({ type: 'people', ids: [2] });
    await settled();
    expect(desk().lately?.id).toBe(2);
    await worker.say({ type: 'people', ids: [] });
    await settled();
    expect(desk().recipients).toHaveLength(200);
  });

  it('a problem, and its end; and the worker goes when the desk is left', async () => {
    const { worker } = await opened();
    await worker.say({ type: 'problem', message: 'The email cannot be built.' });
    expect(said()['problem']).toBe('The email cannot be built.');
    await worker.say({ type: 'problem', message: null });
    expect(said()['problem']).toBeNull();
    cleanup();
    expect(worker.running()).toBe(0);
  });
});

describe('findings', () => {
  const checked = (message: string, more: Partial<SiteFinding> = {}) =>
    ({
      severity: 'error',
      node: 'h',
      path: 'text',
      start: 3,
      end: 5,
      message,
      ...more,
    }) as SiteFinding;

  it('of the checker and of the build stand once, with the place of a repair', () => {
    const repair = { label: 'Use first_name', text: 'first_name' };
    const joined = joinFindings(
      [checked('Nothing is named so.', { repair })],
      [
        { severity: 'error', node: 'h', path: 'text', message: 'Nothing is named so.' },
        { severity: 'warning', node: 'h', path: 'text', message: 'It is long.' },
      ],
    );
    expect(joined.map((f) => f.message)).toEqual(['Nothing is named so.', 'It is long.']);
    expect(joined[0]?.repair).toEqual({ ...repair, start: 3, end: 5 });
  });
});
