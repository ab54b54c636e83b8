import type { ReactNode } from 'react';
import { act, type RenderResult } from '@testing-library/react';
import type { Recipient } from '@carafe/contract';
import type { Template } from '@carafe/core/template';
import { store } from '../app/store';
import { deskActions } from '../places/desk/deskSlice';
import { DeskProvider } from '../places/desk/useDesk';
import type { FromWorker, ToWorker } from '../places/desk/worker/messages';
import { renderPart } from '.';

/** Stands in for the desk's worker: keeps what it is told, and says what a test wants it to. */
export function fakeWorker() {
  const told: ToWorker[] = [];
  const workers: { onmessage: ((event: MessageEvent<FromWorker>) => void) | null }[] = [];
  globalThis.Worker = class {
    onmessage = null;
    constructor() {
      workers.push(this);
    }
    postMessage(message: ToWorker) {
      told.push(message);
    }
    terminate() {
      workers.splice(workers.indexOf(this), 1);
    }
  } as unknown as typeof Worker;
  return {
    told,
    running: () => workers.length,
    say: (message: FromWorker) =>
      act(() => workers.at(-1)?.onmessage?.({ data: message } as MessageEvent<FromWorker>)),
  };
}

export const desk = () => store.getState().desk;

/** Made-up recipients, numbered from 1. */
export function somePeople(count: number): Recipient[] {
  return Array.from({ length: count }, (_, i) => ({
    id: i + 1,
    email: `p${i + 1}@quill.example`,
    name: `Person ${i + 1}`,
    lines: 0,
    orders: 0,
  }));
}

/** Puts a template on the desk, in version 1. */
export function openTemplate(template: Template): void {
  const stored = { id: template.name, version: 1, updated_at: '', template };
  act(() => void store.dispatch(deskActions.opened({ stored, having: 'all' })));
}

/** Renders a part of the desk, for a template that is open. */
export function renderOnDesk(part: ReactNode): RenderResult {
  return renderPart(<DeskProvider>{part}</DeskProvider>);
}
