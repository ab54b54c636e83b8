/** @jest-environment jsdom */
import { MantineProvider } from '@mantine/core';
import { cleanup, render, screen } from '@testing-library/react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { Broken } from './Broken';

afterEach(cleanup);

it('a page that fails says what is safe and how to go on, never the machine’s own words', async () => {
  const told: unknown[] = [];
  const { error } = console;
  console.error = (...said: unknown[]) => void told.push(...said);
  function Fails(): never {
    throw new TypeError('Cannot read properties of undefined');
  }
  const router = createMemoryRouter([{ path: '/', element: <Fails />, errorElement: <Broken /> }]);
  render(
    <MantineProvider env="test">
      <RouterProvider router={router} />
    </MantineProvider>,
  );
  expect(await screen.findByRole('heading', { name: 'This page could not be shown' })).toBeTruthy();
  console.error = error;
  expect(document.body.textContent).not.toContain('undefined');
  expect(screen.getByRole('alert').textContent).toContain('nothing of it is lost');
  expect(screen.getByRole('link', { name: 'To the templates' })).toBeTruthy();
  // Whoever looks into it finds what happened.
  expect(told.some((one) => one instanceof TypeError)).toBe(true);
});
