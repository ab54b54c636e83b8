/** @jest-environment jsdom */
import { act, cleanup, screen } from '@testing-library/react';
import { Notifications } from '@mantine/notifications';
import { renderPart } from '../testing';
import { notifyOf, notifyRefused } from './notify';

beforeEach(() => void jest.useFakeTimers());
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});
/** What is drawn after each second may wait for the next. */
function after(seconds: number): void {
  for (let i = 0; i < seconds; i++) act(() => void jest.advanceTimersByTime(1000));
}

test('what was refused stands there long enough to be read aloud, and longer than what was done', () => {
  renderPart(<Notifications autoClose={8_000} transitionDuration={0} />);
  act(() => {
    notifyRefused('“wall.png” was not kept', 'A picture may have 20 MB at most.');
    notifyOf('Pasted', 'Two tables became lines.');
  });
  after(15);
  expect(screen.queryByText('Pasted')).toBeNull();
  expect(screen.queryByText(/20 MB at most/)).not.toBeNull();
  after(10);
  expect(screen.queryByText(/20 MB at most/)).toBeNull();
});
