/** @jest-environment jsdom */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { ENDPOINTS, type Picture } from '@carafe/contract';
import { fakeServer, isFor, renderPart, type Sent } from '../../testing';
import { PictureSheet } from './PictureSheet';

const bed: Picture = {
  ...{ id: 'bed1', name: 'The long bed', alt: '', tags: [], width: 1200, height: 800, bytes: 2e6 },
  ...{ type: 'jpeg', version: 1, made_at: '', focus: { x: 0.5, y: 0.5, zoom: 1 }, used_by: [] },
};
const changes = (sent: Sent[]) =>
  sent.filter((one) => isFor(ENDPOINTS.changePicture, one)).map(({ body }) => body);
let sent: Sent[];
beforeEach(() => {
  sent = fakeServer(() => ({ body: bed }));
});

test('what matters in a picture is moved by the arrow keys, and stays within it', async () => {
  const edge = { ...bed, focus: { x: 0.98, y: 0.5, zoom: 1 } };
  renderPart(<PictureSheet picture={edge} onClose={() => undefined} />);
  const focus = screen.getByRole('button', { name: /The most important point of the picture/ });
  fireEvent.keyDown(focus, { key: 'ArrowRight' });
  fireEvent.keyDown(focus, { key: 'ArrowUp' });
  fireEvent.keyDown(focus, { key: 'a' });
  await waitFor(() =>
    expect(changes(sent)).toEqual([
      { focus: { x: 1, y: 0.5, zoom: 1 } },
      { focus: { x: 0.98, y: 0.45, zoom: 1 } },
    ]),
  );
});

test('alt text is kept when the field is left, and only where it changed', async () => {
  renderPart(<PictureSheet picture={bed} onClose={() => undefined} />);
  const alt = screen.getByRole('textbox', { name: 'Alt text' });
  fireEvent.blur(alt);
  fireEvent.change(alt, { target: { value: 'Lupins in June' } });
  fireEvent.blur(alt);
  await waitFor(() => expect(changes(sent)).toEqual([{ alt: 'Lupins in June' }]));
});

test('a picture that a template shows is replaced there, not deleted', () => {
  const used = { ...bed, used_by: [{ id: 't', name: 'The June letter' }] };
  renderPart(<PictureSheet picture={used} onClose={() => undefined} />);
  expect(screen.getByRole('link', { name: 'The June letter' })).toBeTruthy();
  expect(screen.getByText('Replace everywhere')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Delete' })).toHaveProperty('disabled', true);
  expect(screen.getByText(/1200 × 800 pixels, 2 MB, jpeg/)).toBeTruthy();
});
