/** @jest-environment jsdom */
import { act, renderHook } from '@testing-library/react';
import type { Shape } from '@carafe/core/shape';
import { useShape } from './useShape';

const shop: Shape = { kind: 'record', fields: {} };

describe('what cannot be done without the shape', () => {
  it('waits until it comes, and is done at once from then on', () => {
    const { result } = renderHook(() => useShape());
    const done: Shape[] = [];
    const work = (shape: Shape) => void done.push(shape);
    act(() => result.current.whenShaped(work));
    expect(done).toEqual([]);
    act(() => result.current.shapeCame(shop));
    expect(done).toEqual([shop]);
    act(() => result.current.whenShaped(work));
    expect(done).toEqual([shop, shop]);
    expect(result.current.shape).toBe(shop);
  });

  it('is done without it, once, where it does not come', () => {
    jest.useFakeTimers();
    const { result } = renderHook(() => useShape());
    const done: Shape[] = [];
    act(() => result.current.whenShaped((shape) => void done.push(shape)));
    jest.advanceTimersByTime(6_000);
    act(() => result.current.shapeCame(shop));
    expect(done).toEqual([{ kind: 'any' }]);
    jest.useRealTimers();
  });
});
