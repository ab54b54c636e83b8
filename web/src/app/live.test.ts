/** @jest-environment jsdom */
import type { LiveUpdate } from '@carafe/contract';
import { listenLive } from './live';

/** Stands in for the browser's connection to the server. */
class FakeSource {
  static all: FakeSource[] = [];
  onmessage: ((event: { data: string; lastEventId: string }) => void) | null = null;
  closed = false;
  constructor(readonly address: string) {
    FakeSource.all.push(this);
  }
  close() {
    this.closed = true;
  }
  tell(id: string, update: unknown) {
    this.onmessage?.({ data: JSON.stringify(update), lastEventId: id });
  }
}
Object.assign(globalThis, { EventSource: FakeSource });
const open = () => FakeSource.all.filter(({ closed }) => !closed);
const latest = () => FakeSource.all.at(-1) as FakeSource;

function see(state: 'visible' | 'hidden') {
  Object.defineProperty(document, 'visibilityState', { configurable: true, get: () => state });
  document.dispatchEvent(new Event('visibilitychange'));
}

test('what changes is told to all who listen, over one connection; it is closed after the last', () => {
  see('visible');
  const heard: LiveUpdate[][] = [[], []];
  const stops = heard.map((list) => listenLive((update) => list.push(update)));
  expect(open()).toHaveLength(1);
  latest().tell('a-1', { type: 'source', id: 's' });
  expect(heard).toEqual([[{ type: 'source', id: 's' }], [{ type: 'source', id: 's' }]]);
  stops[0]?.();
  latest().tell('a-2', { type: 'template', id: 't' });
  expect(heard.map((list) => list.length)).toEqual([1, 2]);
  stops[1]?.();
  expect(open()).toEqual([]);
});

test('a page that nobody sees keeps no connection, and goes on from what it heard last', () => {
  see('visible');
  const heard: LiveUpdate[] = [];
  const stop = listenLive((update) => heard.push(update));
  latest().tell('b-7', { type: 'here' });
  see('hidden');
  expect(open()).toEqual([]);
  see('visible');
  expect(open()).toHaveLength(1);
  expect(latest().address).toBe('/api/live?since=b-7');
  latest().tell('c-0', { type: 'stale' });
  expect(heard.map(({ type }) => type)).toEqual(['here', 'stale']);
  stop();
});

test('what this page does not know of a newer server is passed over', () => {
  see('visible');
  const heard: LiveUpdate[] = [];
  const stop = listenLive((update) => heard.push(update));
  latest().tell('d-1', { type: 'weather', of: 'tomorrow' });
  latest().tell('d-2', { type: 'shared', shop: null });
  expect(heard).toEqual([{ type: 'shared', shop: null }]);
  stop();
});
