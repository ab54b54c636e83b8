import { pino } from 'pino';
import type { TemplateHealth } from '@carafe/contract';
import type { CheckFinding } from '@carafe/core/checks';
import { LiveUpdates } from '../live/liveUpdates';
import type { Digests } from '../templates/healthRepository';
import { changedPeople, TemplateWatch } from './watch';

const NOW = '2026-11-24T09:00:00.000Z';
const finding = (severity: CheckFinding['severity'], message: string): CheckFinding => ({
  ...{ check: 'formulas', severity, node: '', path: message, message },
});

/** A shop with one template that is sent, whose audience and findings a test says. */
function watched() {
  const kept = new Map<string, { health: TemplateHealth; version: number; digests: Digests }>();
  const now: {
    mails: string;
    asBefore?: string;
    published: number;
    findings: CheckFinding[];
    /** What looking at what is not sent waits for. */
    aside: Promise<void>;
  } = { ...{ mails: 'aaaaaabbbb', published: 1 }, findings: [], aside: Promise.resolve() };
  const held: string[] = [];
  const looked: string[] = [];
  const step = { kind: 'send', id: 's', template: 't', mail: 'service', mode: 'on', to: 'person' };
  const updates = new LiveUpdates('x');
  const watch = new TemplateWatch({
    ...({
      store: { write: <T>(work: () => T) => Promise.resolve(work()) },
      occasions: {
        on: () => [{ id: 'o', on_since: NOW, published: 1 }],
        live: () => ({ steps: [step] }),
      },
      published: {
        last: (id: string) => (id === 't' ? now.published : id === 'draft' ? 0 : 1),
        document: () => ({ shop: 's' }),
      },
      templates: {
        list: () => ['t', 'by hand', 'draft'].map((id) => ({ id, template: { shop: 's' } })),
      },
      outbox: { holdReady: (id: string, reason: string) => held.push(`${id}: ${reason}`) },
      templateHealth: {
        get: (id: string) => kept.get(id)?.health ?? null,
        version: (id: string) => kept.get(id)?.version ?? 0,
        digests: (id: string, version: number) =>
          kept.get(id)?.version === version ? kept.get(id)?.digests : null,
        put: (id: string, health: TemplateHealth, version: number, digests: Digests) =>
          void kept.set(id, { health, version, digests }),
        change: (id: string, health: TemplateHealth) =>
          void kept.set(id, { version: 1, digests: new Map(), ...kept.get(id), health }),
      },
      shops: { list: () => [{ id: 's' }] },
      surveys: {
        wholeOf: async (_: unknown, id: string, __: unknown, { aside }: { aside: boolean }) => {
          looked.push(id);
          if (aside) await now.aside;
          const digests = [...now.mails].flatMap((mail, person) => {
            const then = (now.asBefore ?? now.mails).charCodeAt(person);
            return [person, mail.charCodeAt(0), then];
          });
          const people = now.mails.length;
          return { survey: { people, digests }, findings: now.findings };
        },
      },
    } as never as ConstructorParameters<typeof TemplateWatch>[0]),
    ...{ updates, now: () => new Date(NOW), log: pino({ level: 'silent' }) },
  });
  const health = (id = 't') => kept.get(id)?.health;
  /** What another Carafe kept. */
  const change = (fields: Partial<Record<keyof TemplateHealth, unknown>>) => {
    const was = kept.get('t');
    if (was) kept.set('t', { ...was, health: { ...was.health, ...fields } as TemplateHealth });
  };
  return { watch, now, held, looked, updates, health, change };
}

test.each([
  ['aab', 'aab', 0],
  ['aab', 'abb', 1],
  ['aa', 'bb', 2],
  // Who comes new, or is gone, has no other mail than before.
  ['', 'aa', 0],
  ['aaa', 'a', 0],
])('from %j to %j the email of %i people is another', (before, after, changed) => {
  const digests = (mails: string) =>
    new Map([...mails].map((mail, person) => [person, mail.charCodeAt(0)]));
  expect(changedPeople(digests(before), digests(after))).toBe(changed);
});

test('what is wrong from the beginning holds nothing; what came up with a change does, until it is gone', async () => {
  const { watch, now, held, health } = watched();
  now.findings = [finding('error', 'Old'), finding('warning', 'Mild')];
  await watch.look('s');
  expect(health()).toMatchObject({ people: 10, changed: 0, errors: ['Old'], held: null });
  expect(held).toEqual([]);
  now.mails = 'aaabbbbbbb';
  now.findings = [finding('error', 'Old'), finding('error', 'A price is missing')];
  await watch.look('s');
  expect(health()).toMatchObject({ changed: 3, held: 'A price is missing' });
  // What is filled already is held as well.
  expect(held).toEqual([
    expect.stringMatching(/^t: Held: an error came up .* A price is missing$/),
  ]);
  await watch.look('s');
  expect(health()).toMatchObject({ changed: 0, held: 'A price is missing' });
  now.findings = [];
  await watch.look('s');
  expect(health()).toMatchObject({ errors: [], held: null });
});

test('an error that is worded anew, or found by a check that is new, holds nothing', async () => {
  const { watch, now, health, change } = watched();
  const known = finding('error', 'There is nothing here');
  now.findings = [known];
  await watch.look('s');
  now.findings = [{ ...known, message: 'Nothing is here' }];
  await watch.look('s');
  expect(health()).toMatchObject({ errors: ['Nothing is here'], held: null });
  // An earlier Carafe had not the check, and one before it did not keep which it had.
  const found = { ...finding('error', 'New kind'), check: 'odd_link' };
  now.findings = [known, found];
  change({ checks: ['formulas'] });
  await watch.look('s');
  expect(health()).toMatchObject({ held: null });
  change({ checks: undefined, places: undefined, errors: [] });
  await watch.look('s');
  expect(health()).toMatchObject({ held: null });
  // From then on it is compared like any other; and so is a second one in the same place.
  now.findings = [known, found, { ...found, message: 'Another' }];
  await watch.look('s');
  expect(health()).toMatchObject({ held: 'Another' });
});

test('what is held stays held when its sentence is another', async () => {
  const { watch, now, health } = watched();
  await watch.look('s');
  const error = finding('error', 'A price is missing');
  now.findings = [error];
  await watch.look('s');
  now.findings = [{ ...error, message: 'There is no price' }];
  await watch.look('s');
  expect(health()).toMatchObject({ held: 'There is no price' });
  now.findings = [];
  await watch.look('s');
  expect(health()).toMatchObject({ held: null });
});

test('what the date alone makes of a mail is no change of it', async () => {
  const { watch, now, health } = watched();
  now.mails = 'aaaa';
  await watch.look('s');
  // A day later all of them show another date; the data of one is another, too.
  now.mails = 'bbbc';
  now.asBefore = 'aaad';
  await watch.look('s');
  expect(health()?.changed).toBe(1);
  now.asBefore = 'bbbc';
  await watch.look('s');
  expect(health()?.changed).toBe(0);
});

test('another version of the template is compared with none before it, and its mended error holds nothing', async () => {
  const { watch, now, updates, health } = watched();
  await watch.look('s');
  now.findings = [finding('error', 'New')];
  await watch.look('s');
  expect(health()?.held).toBe('New');
  watch.begin();
  const looked = new Promise((done) =>
    updates.listen(({ update }) => update.type === 'outbox' && done(0)),
  );
  now.mails = 'cccccccccc';
  now.published = 2;
  now.findings = [];
  updates.publish({ type: 'template', id: 't' });
  await looked;
  expect(health()).toMatchObject({ changed: 0, held: null });
});

test('what is published in spite of an error goes; an error that held mails before holds them on', async () => {
  const { watch, now, health } = watched();
  await watch.look('s');
  now.published = 2;
  now.findings = [finding('error', 'Published so')];
  await watch.look('s');
  expect(health()).toMatchObject({ errors: ['Published so'], held: null });
  now.findings.push(finding('error', 'Came with the data'));
  await watch.look('s');
  expect(health()?.held).toBe('Came with the data');
  now.published = 3;
  await watch.look('s');
  expect(health()?.held).toBe('Came with the data');
  // The other error stays, as it was published.
  now.findings = [finding('error', 'Published so')];
  await watch.look('s');
  expect(health()).toMatchObject({ errors: ['Published so'], held: null });
});

test('what is published and not sent is looked at too; where nothing changed, once', async () => {
  const { watch, now, health } = watched();
  await watch.look('s');
  expect(health('by hand')).toBeUndefined();
  await watch.lookAtOthers('s', false);
  expect(health('by hand')).toMatchObject({ people: 10, changed: 0 });
  now.mails = 'cccccccccc';
  await watch.lookAtOthers('s', false);
  expect(health('by hand')).toMatchObject({ changed: 0 });
  await watch.lookAtOthers('s', true);
  expect(health('by hand')).toMatchObject({ changed: 10 });
  // What is sent is looked at by itself, and a draft that was never published not at all.
  expect(health()).toMatchObject({ changed: 0 });
  expect(health('draft')).toBeUndefined();
});

test('mails are let go all the same, once', async () => {
  const { watch, now, health } = watched();
  await watch.look('s');
  now.findings = [finding('error', 'New')];
  await watch.look('s');
  await watch.letGo('t');
  expect(health()?.held).toBeNull();
  await expect(watch.letGo('t')).rejects.toThrow('The emails of this template are not held.');
  await watch.look('s');
  expect(health()?.held).toBeNull();
});

test('what is sent does not wait for what nobody waits for', async () => {
  jest.useFakeTimers();
  try {
    const { watch, now, looked, updates, health } = watched();
    await watch.look('s');
    let goOn: () => void = () => undefined;
    now.aside = new Promise((done) => (goOn = done));
    watch.begin();
    await jest.advanceTimersByTimeAsync(60_000);
    expect(looked).toEqual(['t', 'by hand']);
    // Something is published while the other is still looked at.
    now.published = 2;
    now.findings = [finding('error', 'New')];
    updates.publish({ type: 'template', id: 't' });
    await jest.advanceTimersByTimeAsync(0);
    expect(looked).toEqual(['t', 'by hand', 't']);
    expect(health()?.errors).toEqual(['New']);
    expect(health('by hand')).toBeUndefined();
    goOn();
    await jest.advanceTimersByTimeAsync(0);
    expect(health('by hand')).toMatchObject({ people: 10 });
  } finally {
    jest.useRealTimers();
  }
});
