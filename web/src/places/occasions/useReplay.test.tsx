/** @jest-environment jsdom */
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import { noFigures } from '@carafe/core/occasion';
import { fakeServer, refusal, type Sent } from '../../testing';
import { useReplay, type ReplayAsked } from './useReplay';

afterEach(cleanup);

const ASKED: ReplayAsked = { occasions: [], mode: 'replay', days: 30 };
const PEOPLE = 8_000;
interface Body {
  after: number;
  most: number;
  days: number;
}
const bodyOf = ({ body }: Sent) => body as Body;

/** A shop of 8,000 people, each of whom gets as many mails as days are asked for. */
function answer(sent: Sent) {
  const { after, most, days } = bodyOf(sent);
  const people = Math.min(most, PEOPLE - after);
  const figures = { ...noFigures(), people, mails: people * days };
  const next = after + people < PEOPLE ? after + people : null;
  return { body: { figures, people: PEOPLE, next, from: '2026-11-01T00:00:00.000Z' } };
}

test('the first few come soon, then more at a time, until everybody is added up', async () => {
  const sent = fakeServer(answer);
  const { result } = renderHook(() => useReplay('s'));
  act(() => void result.current.start(ASKED));
  await waitFor(() => expect(result.current.soFar?.running).toBe(false));
  expect(result.current.soFar?.figures).toMatchObject({ people: PEOPLE, mails: PEOPLE * 30 });
  const [first, second, ...more] = sent.map(bodyOf);
  expect(first?.after).toBe(0);
  expect(second?.after).toBe(first?.most);
  expect(second?.most).toBeGreaterThan(first?.most ?? 0);
  expect(more.length).toBeLessThan(4);
});

test('stopped while it asks, it keeps what it has and asks no more', async () => {
  let stop = () => undefined as void;
  const sent = fakeServer((one) => {
    if (bodyOf(one).after > 0) act(() => stop());
    return answer(one);
  });
  const { result } = renderHook(() => useReplay('s'));
  stop = () => result.current.stop();
  act(() => void result.current.start(ASKED));
  await waitFor(() => expect(result.current.soFar?.running).toBe(false));
  const [first] = sent.map(bodyOf);
  expect(result.current.soFar?.figures.people).toBe(first?.most);
  expect(sent).toHaveLength(2);
});

test('begun anew, what was asked before is not added', async () => {
  fakeServer(answer);
  const { result } = renderHook(() => useReplay('s'));
  act(() => {
    void result.current.start(ASKED);
    void result.current.start({ ...ASKED, days: 7 });
  });
  await waitFor(() => expect(result.current.soFar?.running).toBe(false));
  expect(result.current.soFar?.figures).toMatchObject({ people: PEOPLE, mails: PEOPLE * 7 });
  expect(result.current.soFar?.asked.days).toBe(7);
});

test('what the server refuses is told in its words, beside what came before', async () => {
  fakeServer((sent) =>
    bodyOf(sent).after === 0 ? answer(sent) : refusal(422, 'A condition cannot be read.'),
  );
  const { result } = renderHook(() => useReplay('s'));
  act(() => void result.current.start(ASKED));
  await waitFor(() => expect(result.current.problem).toBe('A condition cannot be read.'));
  await waitFor(() => expect(result.current.soFar?.running).toBe(false));
  expect(result.current.soFar?.figures.people).toBeGreaterThan(0);
});
