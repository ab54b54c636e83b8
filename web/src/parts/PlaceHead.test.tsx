/** @jest-environment jsdom */
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { renderPart } from '../testing';
import { PlaceHead } from './PlaceHead';

afterEach(cleanup);

test('nothing can be added before there is what it is added to: no click is lost', () => {
  let added = 0;
  const head = (waits: boolean) => (
    <PlaceHead title="Rules" add="Add a rule" onAdd={() => void added++} waits={waits} />
  );
  renderPart(head(true));
  const button = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Add a rule' });
  expect(button().disabled).toBe(true);
  cleanup();
  renderPart(head(false));
  fireEvent.click(button());
  expect(added).toBe(1);
});
