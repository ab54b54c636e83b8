import type { ReactNode } from 'react';
import { MantineProvider } from '@mantine/core';
import { act, configure, render, type RenderResult } from '@testing-library/react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import type { Endpoint } from '@carafe/contract';
import { store } from '../app/store';
import { theme } from '../app/theme';

// A slow machine is no failure.
configure({ asyncUtilTimeout: 20_000 });

/** Renders a part of the interface as it stands in the application, without what moves. */
export function renderPart(part: ReactNode): RenderResult {
  return render(
    <Provider store={store}>
      <MantineProvider theme={theme} env="test">
        <MemoryRouter>{part}</MemoryRouter>
      </MantineProvider>
    </Provider>,
  );
}

/** Lets what the stand-in for the server answers arrive. */
export async function settled(): Promise<void> {
  await act(async () => {
    for (let i = 0; i < 50; i++) await Promise.resolve();
  });
}

/** A request as the page sends it. */
export interface Sent {
  method: string;
  /** Path with its query, below /api. */
  path: string;
  body: unknown;
}
type Reply = { status?: number; body?: unknown } | Promise<{ status?: number; body?: unknown }>;

/** Stands in for the server: what it is sent is kept, and `reply` says what it answers. */
export function fakeServer(reply: (sent: Sent) => Reply): Sent[] {
  const sent: Sent[] = [];
  globalThis.fetch = (async (address: string, init?: RequestInit) => {
    const given = typeof init?.body === 'string' ? (JSON.parse(init.body) as unknown) : undefined;
    const one = { method: init?.method ?? 'GET', path: address.replace(/^\/api/, ''), body: given };
    sent.push(one);
    const { status = 200, body } = await reply(one);
    return { ok: status < 300, status, json: () => Promise.resolve(body) } as Response;
  }) as typeof fetch;
  return sent;
}

/** The server's way of refusing. */
export const refusal = (status: number, message: string) => ({
  status,
  body: { error: { message } },
});

/** Whether a request is for an endpoint, whatever its parameters. */
export function isFor(endpoint: Endpoint, { method, path }: Sent): boolean {
  const pattern = endpoint.path.replace(/:[a-z_]+/gi, '[^/?]+');
  return method === endpoint.method && new RegExp(`^${pattern}(\\?|$)`).test(path);
}

/** What a request asks behind its path. */
export const queryOf = ({ path }: Sent): Record<string, string> =>
  Object.fromEntries(new URLSearchParams(path.split('?')[1]));
