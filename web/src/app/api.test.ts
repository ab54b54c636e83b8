import { ENDPOINTS } from '@carafe/contract';
import { fakeServer, isFor, refusal } from '../testing';
import { api, staleTags } from './api';
import { ask, messageOf, RequestFailed } from './ask';
import { makeStore } from './store';

/** Stores of this file; what they keep is let go of in the end. */
const stores: ReturnType<typeof makeStore>[] = [];
function newStore() {
  const store = makeStore();
  stores.push(store);
  return store;
}
afterAll(() => stores.forEach((store) => store.dispatch(api.util.resetApiState())));

const source = (name: string) => ({ body: { sources: [{ id: 's', name }] } });

describe('what is kept of the server’s answers', () => {
  it('is asked for once, however many read it', async () => {
    const sent = fakeServer(() => source('A'));
    const store = newStore();
    const reads = [1, 2].map(() => store.dispatch(api.endpoints.sources.initiate()));
    await Promise.all(reads);
    expect(sent).toHaveLength(1);
    reads.forEach((read) => read.unsubscribe());
  });

  it('is asked for again after something that changes it, and after an update that says so', async () => {
    let name = 'A';
    const sent = fakeServer((one) =>
      isFor(ENDPOINTS.changeSource, one) ? { body: { id: 's', name } } : source(name),
    );
    const store = newStore();
    const read = store.dispatch(api.endpoints.sources.initiate());
    await read;
    const shown = () => api.endpoints.sources.select()(store.getState()).data?.sources[0]?.name;
    expect(shown()).toBe('A');
    const settled = () =>
      Promise.all(store.dispatch(api.util.getRunningQueriesThunk()) as Promise<unknown>[]);
    name = 'B';
    await store.dispatch(
      api.endpoints.changeSource.initiate({ id: 's', asked: { name: 'B' } as never }),
    );
    await settled();
    expect(shown()).toBe('B');
    name = 'C';
    store.dispatch(api.util.invalidateTags(staleTags({ type: 'source', id: 's' })));
    await settled();
    expect(shown()).toBe('C');
    expect(sent.filter((one) => isFor(ENDPOINTS.listSources, one))).toHaveLength(3);
    read.unsubscribe();
  });

  it('may be given up before it comes: that is no error, and it is asked for again', async () => {
    const told: unknown[] = [];
    const { error } = console;
    console.error = (...said: unknown[]) => void told.push(...said);
    const store = newStore();
    const { fetch: before } = globalThis;
    globalThis.fetch = ((_: string, { signal }: RequestInit) =>
      new Promise((_done, failed) =>
        signal?.addEventListener('abort', () => failed(new DOMException('Aborted', 'AbortError'))),
      )) as typeof fetch;
    const given = store.dispatch(api.endpoints.sources.initiate());
    await Promise.resolve();
    given.abort();
    await given;
    given.unsubscribe();
    globalThis.fetch = before;
    fakeServer(() => source('A'));
    const again = store.dispatch(api.endpoints.sources.initiate());
    expect((await again).data?.sources[0]?.name).toBe('A');
    expect(told).toEqual([]);
    console.error = error;
    again.unsubscribe();
  });

  it('is not asked for at every step of a long import', () => {
    const step = { type: 'import', id: 'i', source: 's', progress: 5 } as const;
    expect(staleTags({ ...step, state: 'checking' })).toEqual([]);
    expect(staleTags({ ...step, state: 'applying' })).toEqual([]);
    expect(staleTags({ ...step, state: 'applied', progress: null })).toContainEqual({
      type: 'import',
      id: 'i',
    });
  });

  it('is the shape alone where that is another', () => {
    expect(staleTags({ type: 'shape', shop: 's' })).toEqual([{ type: 'shape', id: 'LIST' }]);
  });

  it('is all of it in doubt once updates were missed', () => {
    expect(staleTags({ type: 'stale' })).toEqual(
      expect.arrayContaining(['template', 'source', 'rows', 'import', 'person']),
    );
    expect(staleTags({ type: 'here' })).toEqual([]);
  });

  it('keeps a refusal as plain data, in the server’s words', async () => {
    fakeServer(() => refusal(409, 'It was changed.'));
    const store = newStore();
    const { error } = await store.dispatch(api.endpoints.deleteTemplate.initiate('x'));
    expect(error).toMatchObject({ status: 409, message: 'It was changed.' });
    expect(messageOf(error)).toBe('It was changed.');
  });
});

describe('asking the server', () => {
  const get = () => ask(ENDPOINTS.getTemplate, { params: { id: 'a/b' } });

  it('puts parameters into the address so that they stay parameters', async () => {
    const sent = fakeServer(() => ({ body: {} }));
    await get();
    await ask(ENDPOINTS.sourceRows, { params: { id: 's' }, query: { q: 'a&b', offset: 5 } });
    expect(sent.map(({ path }) => path)).toEqual([
      '/templates/a%2Fb',
      '/sources/s/rows?q=a%26b&offset=5',
    ]);
  });

  it.each([
    [
      'a refusal with a sentence',
      refusal(404, 'There is no such template.'),
      'There is no such template.',
    ],
    [
      'an answer of something that stands between',
      { status: 502, body: '<html>' },
      'The server’s answer could not be read.',
    ],
  ])('tells %s', async (_, reply, message) => {
    fakeServer(() => reply);
    await expect(get()).rejects.toMatchObject({ message });
    await expect(get()).rejects.toBeInstanceOf(RequestFailed);
  });

  it('tells that nobody is there', async () => {
    fakeServer(() => Promise.reject(new TypeError('Failed to fetch')));
    await expect(get()).rejects.toMatchObject({ refused: { status: 0 } });
  });

  it('has a sentence for whatever is thrown', () => {
    for (const thrown of [undefined, null, 5, {}]) expect(messageOf(thrown)).toMatch(/^[A-Z].*\.$/);
  });
});
