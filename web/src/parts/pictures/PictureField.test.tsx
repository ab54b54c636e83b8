/** @jest-environment jsdom */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { ENDPOINTS, type Picture } from '@carafe/contract';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, renderPart, settled } from '../../testing';
import { PictureField } from './PictureField';

const bed: Picture = {
  ...{ id: 'bed1', name: 'The long bed', alt: 'Lupins in June', tags: ['June'] },
  ...{ width: 1200, height: 800, bytes: 1, type: 'jpeg', version: 1, made_at: '' },
  ...{ focus: { x: 0.5, y: 0.5, zoom: 1 }, used_by: [] },
};
const shed: Picture = { ...bed, id: 'shed', name: 'The shed', alt: '', tags: [] };

beforeEach(() => {
  store.dispatch(api.util.resetApiState());
  fakeServer((sent) =>
    isFor(ENDPOINTS.listPictures, sent) ? { body: { pictures: [bed, shed] } } : {},
  );
});

test('a picture of the library is chosen by its name, with what is said of it', async () => {
  const onChange = jest.fn();
  const onChosen = jest.fn();
  renderPart(
    <PictureField
      label="Picture"
      value="https://q.example/a.png"
      onChange={onChange}
      onChosen={onChosen}
    />,
  );
  fireEvent.click(screen.getByText('Choose from the library'));
  const search = await screen.findByRole('textbox', { name: 'Search pictures' });
  await screen.findByText('The shed');
  fireEvent.change(search, { target: { value: 'lupin' } });
  await waitFor(() => expect(screen.queryByText('The shed')).toBeNull());
  fireEvent.click(screen.getByText('The long bed'));
  expect(onChosen).toHaveBeenCalledWith(bed);
  // Who takes over what is said of it puts the address as well, in one edit.
  expect(onChange).not.toHaveBeenCalled();
});

test('tags narrow the library', async () => {
  renderPart(<PictureField label="Picture" value="" onChange={() => undefined} />);
  fireEvent.click(screen.getByText('Choose from the library'));
  await screen.findByText('The shed');
  fireEvent.click(screen.getByRole('button', { name: 'June' }));
  await waitFor(() => expect(screen.queryByText('The shed')).toBeNull());
  expect(screen.getByText('The long bed')).toBeTruthy();
});

test('a picture that left the library is told, and can be taken away', async () => {
  const onChange = jest.fn();
  const value = '{{ shop.pictures }}/library/gone/1x1';
  renderPart(<PictureField label="Picture" value={value} onChange={onChange} />);
  await settled();
  expect(await screen.findByText('This picture is no longer in the library')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Picture: use a web address' }));
  expect(onChange).toHaveBeenCalledWith('');
});
