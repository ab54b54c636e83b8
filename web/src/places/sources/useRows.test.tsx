/** @jest-environment jsdom */
import { act, cleanup, render, waitFor } from '@testing-library/react';
import { fakeServer, refusal, type Sent } from '../../testing';
import { useRows, type RowsAsked } from './useRows';

const ALL: RowsAsked = { q: '', filter: '', sort: null, descending: false };
const TOTAL = 1_000;
let rows: ReturnType<typeof useRows>;
function Rows({ asked, revision }: { asked: RowsAsked; revision: string }) {
  rows = useRows('s', asked, revision);
  return null;
}
const queryOf = ({ path }: Sent) => new URLSearchParams(path.split('?')[1]);
const offsets = (sent: Sent[]) => sent.map((one) => Number(queryOf(one).get('offset')));
const page = (one: Sent) => {
  const offset = Number(queryOf(one).get('offset'));
  const filter = queryOf(one).get('filter') ?? '';
  return {
    body: {
      total: filter ? 3 : TOTAL,
      rows: Array.from({ length: filter ? 3 : 100 }, (_, i) => ({
        id: offset + i,
        key: `${filter}${offset + i}`,
        record: {},
      })),
    },
  };
};
const show = (asked: RowsAsked = ALL, revision = '1') => <Rows asked={asked} revision={revision} />;
afterEach(cleanup);

describe('the rows of a source', () => {
  it('are asked for where they are looked at, each stretch once', async () => {
    const sent = fakeServer(page);
    render(show());
    await waitFor(() => expect(rows.total).toBe(TOTAL));
    expect(rows.at(5)?.key).toBe('5');
    expect(rows.at(550)).toBeUndefined();
    act(() => rows.want(540, 610));
    act(() => rows.want(545, 620));
    await waitFor(() => expect(rows.at(610)?.key).toBe('610'));
    expect(offsets(sent)).toEqual([0, 500, 600]);
    expect(rows.at(5)?.key).toBe('5');
  });

  it('start over with another question; what was asked before and comes late is passed over', async () => {
    let release = () => undefined as void;
    const held = new Promise<void>((done) => (release = done));
    fakeServer(async (one) => {
      if (queryOf(one).get('filter') === 'slow') await held;
      return page(one);
    });
    const { rerender } = render(show({ ...ALL, filter: 'slow' }));
    rerender(show({ ...ALL, filter: 'quick' }));
    await waitFor(() => expect(rows.at(0)?.key).toBe('quick0'));
    await act(async () => {
      release();
      await held;
    });
    expect(rows.at(0)?.key).toBe('quick0');
    expect(rows.total).toBe(3);
  });

  it('are asked for anew when what the source holds has changed', async () => {
    const sent = fakeServer(page);
    const { rerender } = render(show());
    await waitFor(() => expect(rows.total).toBe(TOTAL));
    rerender(show(ALL, '2'));
    await waitFor(() => expect(offsets(sent)).toEqual([0, 0]));
  });

  it('say what is wrong with a filter, and come back with a right one', async () => {
    fakeServer((one) =>
      queryOf(one).get('filter') === 'no (' ? refusal(400, 'column 5: …') : page(one),
    );
    const { rerender } = render(show({ ...ALL, filter: 'no (' }));
    await waitFor(() => expect(rows.problem).toBe('column 5: …'));
    rerender(show({ ...ALL, filter: 'yes' }));
    await waitFor(() => expect(rows.problem).toBeNull());
    expect(rows.total).toBe(3);
  });

  it('are sorted by the server', async () => {
    const sent = fakeServer(page);
    render(show({ ...ALL, sort: 'price', descending: true }));
    await waitFor(() => expect(rows.total).toBe(TOTAL));
    const [first] = sent.map(queryOf);
    expect([first?.get('sort'), first?.get('descending')]).toEqual(['price', 'true']);
  });
});
