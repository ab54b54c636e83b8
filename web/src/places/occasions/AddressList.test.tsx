/** @jest-environment jsdom */
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { renderPart } from '../../testing';
import { AddressList } from './AddressList';

afterEach(cleanup);

const valueOf = (field: HTMLElement) => (field as HTMLTextAreaElement).value;
const taken = jest.fn();
function Page() {
  const [addresses, setAddresses] = useState<readonly string[]>(['maud@s.example']);
  return (
    <AddressList
      addresses={addresses}
      onPut={(to) => {
        taken(to);
        setAddresses(to);
      }}
    />
  );
}
beforeEach(() => taken.mockReset());

test('what is no address is told, stays where it was written, and nothing is taken until it is mended', async () => {
  const user = userEvent.setup();
  renderPart(<Page />);
  const field = screen.getByLabelText('Only these addresses');
  expect(valueOf(field)).toBe('maud@s.example');
  await user.type(field, ', wrong');
  await user.tab();
  expect(screen.getByText(/“wrong” is not an address such as name@shop\.example/)).toBeTruthy();
  expect(valueOf(field)).toBe('maud@s.example, wrong');
  expect(taken).not.toHaveBeenCalled();
  await user.type(field, '@S.example');
  await user.tab();
  expect(taken).toHaveBeenCalledWith(['maud@s.example', 'wrong@s.example']);
  expect(valueOf(screen.getByLabelText('Only these addresses'))).toBe(
    'maud@s.example, wrong@s.example',
  );
  expect(screen.getByText(/Nobody else gets it\. 2 addresses\./)).toBeTruthy();
  expect(screen.queryByText(/is not an address/)).toBeNull();
});

test('taken out, everybody is meant again', async () => {
  const user = userEvent.setup();
  renderPart(<Page />);
  await user.clear(screen.getByLabelText('Only these addresses'));
  await user.tab();
  expect(taken).toHaveBeenCalledWith([]);
});
