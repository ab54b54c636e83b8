import { pino } from 'pino';
import type { CheckFinding } from '@carafe/core/checks';
import { LiveUpdates } from '../live/liveUpdates';
import type { StoredHealth } from '../templates/healthRepository';
import { movedPeople, TemplateWatch } from './watch';

const NOW = '2026-11-24T09:00:00.000Z';
const finding = (severity: CheckFinding['severity'], message: string): CheckFinding => ({
  ...{ check: 'x', severity, node: '', path: '', message },
});

/** A shop with one template that is sent, whose audience and findings a test says. */
function watched() {
  const kept = new Map<string, StoredHealth>();
  const now: { variants: Record<string, number>; findings: CheckFinding[] } = {
    variants: { a: 6, b: 4 },
    findings: [],
  };
  const step = { kind: 'send', id: 's', template: 't', mail: 'service', mode: 'on', to: 'person' };
  const watch = new TemplateWatch({
    ...({
      store: { write: <T>(work: () => T) => Promise.resolve(work()) },
      occasions: {
        list: () => [
          { id: 'o', on_since: NOW, published: 1 },
          { id: 'off', on_since: null, published: 1 },
        ],
        document: () => ({ steps: [step] }),
      },
      published: { last: () => 1, document: () => ({ shop: 's' }) },
      templateHealth: {
        get: (id: string) => kept.get(id) ?? null,
        put: (id: string, health: StoredHealth) => void kept.set(id, health),
      },
      shops: { list: () => [{ id: 's' }] },
      surveys: {
        wholeOf: () => {
          const variants = Object.entries(now.variants).map(([key, people]) => ({ key, people }));
          const people = variants.reduce((sum, one) => sum + one.people, 0);
          return Promise.resolve({ survey: { people, variants }, findings: now.findings });
        },
      },
    } as never as ConstructorParameters<typeof TemplateWatch>[0]),
    ...{ updates: new LiveUpdates('x'), now: () => new Date(NOW), log: pino({ level: 'silent' }) },
  });
  return { watch, now, health: () => kept.get('t') };
}

test.each([
  [{ a: 6, b: 4 }, { a: 6, b: 4 }, 0],
  [{ a: 6, b: 4 }, { a: 3, b: 7 }, 3],
  [{ a: 6 }, { c: 6 }, 6],
  [{}, { a: 2 }, 2],
])('from %j to %j move %i people', (before, after, moved) => {
  expect(movedPeople(before, after)).toBe(moved);
});

test('what is wrong from the beginning holds nothing; what came up with a change does, until it is gone', async () => {
  const { watch, now, health } = watched();
  now.findings = [finding('error', 'Old'), finding('warning', 'Mild')];
  await watch.look('s');
  expect(health()).toMatchObject({ people: 10, moved: 0, errors: ['Old'], held: null });
  now.variants = { a: 1, b: 4, c: 5 };
  now.findings = [finding('error', 'Old'), finding('error', 'A price is missing')];
  await watch.look('s');
  expect(health()).toMatchObject({ moved: 5, held: 'A price is missing' });
  await watch.look('s');
  expect(health()).toMatchObject({ moved: 0, held: 'A price is missing' });
  now.findings = [];
  await watch.look('s');
  expect(health()).toMatchObject({ errors: [], held: null });
});

test('mails are let go all the same, once', async () => {
  const { watch, now, health } = watched();
  await watch.look('s');
  now.findings = [finding('error', 'New')];
  await watch.look('s');
  await watch.letGo('t');
  expect(health()?.held).toBeNull();
  await expect(watch.letGo('t')).rejects.toThrow('The mails of this template are not held.');
  await watch.look('s');
  expect(health()?.held).toBeNull();
});
