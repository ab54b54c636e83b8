/** @jest-environment jsdom */
import { MantineProvider } from '@mantine/core';
import { cleanup, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { NotHere } from './NotHere';

afterEach(cleanup);

it('an address that leads nowhere is told, with the way on', () => {
  render(
    <MantineProvider env="test">
      <MemoryRouter initialEntries={['/library/pictures']}>
        <NotHere />
      </MemoryRouter>
    </MantineProvider>,
  );
  expect(screen.getByRole('heading', { name: 'There is no page here' })).toBeTruthy();
  expect(document.body.textContent).toContain('There is nothing at /library/pictures.');
  expect(screen.getByRole('link', { name: 'To the templates' }).getAttribute('href')).toBe('/');
  expect(document.title).toBe('Not here · Carafe');
});
