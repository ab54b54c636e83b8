import {
  ApiError,
  type Conflict,
  type CreateTemplate,
  type Having,
  type RecipientList,
  type Shop,
  type StoredTemplate,
  type TemplateSummary,
} from '@carafe/contract';
import type { Built } from '@carafe/core/build';
import type { PersonData } from '@carafe/core/record';
import type { Mail } from '@carafe/core/render';
import type { Shape } from '@carafe/core/shape';
import type { Template } from '@carafe/core/template';

/** A request that was refused, with the server's own sentence. */
export class RequestFailed extends Error {
  override name = 'RequestFailed';
  constructor(
    readonly status: number,
    message: string,
    readonly body: unknown,
  ) {
    super(message);
  }
}

async function request<T>(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      ...(body !== undefined && {
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' },
      }),
      ...(signal && { signal }),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new RequestFailed(
      0,
      'Carafe’s server cannot be reached. What you typed is safe on this page.',
      null,
    );
  }
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json();
  if (response.ok) return answer as T;
  const told = ApiError.safeParse(answer);
  throw new RequestFailed(
    response.status,
    told.success ? told.data.error.message : 'The server gave an answer that cannot be read.',
    answer,
  );
}

const id = encodeURIComponent;

/** Everything that the interface asks of the server. */
export const api = {
  templates: () => request<{ templates: TemplateSummary[] }>('GET', '/templates'),
  template: (key: string) => request<StoredTemplate>('GET', `/templates/${id(key)}`),
  create: (asked: CreateTemplate) => request<StoredTemplate>('POST', '/templates', asked),
  save: (key: string, version: number, template: Template) =>
    request<StoredTemplate>('PUT', `/templates/${id(key)}`, { version, template }),
  remove: (key: string) => request<undefined>('DELETE', `/templates/${id(key)}`),
  restore: (key: string) => request<StoredTemplate>('POST', `/templates/${id(key)}/restore`),
  preview: (key: string) => request<Mail | null>('GET', `/templates/${id(key)}/preview`),
  build: (template: Template, signal?: AbortSignal) =>
    request<Built>('POST', '/build', { template }, signal),
  shops: () => request<{ shops: Shop[] }>('GET', '/shops'),
  world: (shop: string) => request<unknown>('GET', `/shops/${id(shop)}/world`),
  shape: (shop: string) => request<Shape>('GET', `/shops/${id(shop)}/shape`),
  recipients: (shop: string, having: Having, q: string, offset: number, limit: number) =>
    request<RecipientList>(
      'GET',
      `/shops/${id(shop)}/recipients?${new URLSearchParams({ having, q, offset: String(offset), limit: String(limit) }).toString()}`,
    ),
  people: (shop: string, ids: number[]) =>
    request<{ people: { id: number; data: PersonData }[] }>(
      'GET',
      `/shops/${id(shop)}/people?ids=${ids.join(',')}`,
    ),
};

/** The stored template that a stale save was refused for. */
export function conflictOf(error: unknown): StoredTemplate | null {
  if (!(error instanceof RequestFailed) || error.status !== 409) return null;
  return (error.body as Conflict).current;
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : 'Something failed; nothing was changed.';
}
