import {
  ApiError,
  type ChangeSource,
  type CheckImport,
  type Conflict,
  type CreateSource,
  type CreateTemplate,
  type Having,
  type ImportLook,
  type ImportOutcome,
  type ImportRow,
  type ImportSummary,
  type Recipient,
  type RecipientList,
  type RowPage,
  type Shop,
  type SourceProfile,
  type SourceSummary,
  type StoredTemplate,
  type TemplateSummary,
} from '@carafe/contract';
import type { Built } from '@carafe/core/build';
import type { PersonData, ShopEvent } from '@carafe/core/record';
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
  throw new RequestFailed(response.status, toldBy(answer), answer);
}

/** The server's own sentence. */
function toldBy(answer: unknown): string {
  const told = ApiError.safeParse(answer);
  return told.success ? told.data.error.message : 'The server gave an answer that cannot be read.';
}

/** Sends a file as it is, telling which share of it has gone. */
function upload<T>(path: string, file: Blob, onShare: (share: number) => void): Promise<T> {
  return new Promise((done, failed) => {
    const sending = new XMLHttpRequest();
    sending.open('POST', `/api${path}`);
    sending.setRequestHeader('content-type', 'application/octet-stream');
    sending.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 0);
    sending.onload = () => {
      const answer: unknown = JSON.parse(sending.responseText);
      if (sending.status < 300) done(answer as T);
      else failed(new RequestFailed(sending.status, toldBy(answer), answer));
    };
    sending.onerror = () =>
      failed(new RequestFailed(0, 'The file did not arrive. Nothing was changed.', null));
    sending.send(file);
  });
}

/** What a person reads of one row of a source. */
export interface RowsAsked {
  q: string;
  filter: string;
  sort: string | null;
  descending: boolean;
}

const id = encodeURIComponent;

/** Rows are asked for so many at a time. */
export const ROWS_A_PAGE = 100;

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
  world: (shop: string, catalogs: string | null) =>
    request<unknown>(
      'GET',
      `/shops/${id(shop)}/world${catalogs === null ? '' : `?catalogs=${id(catalogs)}`}`,
    ),
  shape: (shop: string) => request<Shape>('GET', `/shops/${id(shop)}/shape`),
  recipients: (shop: string, having: Having, q: string, offset: number, limit: number) =>
    request<RecipientList>(
      'GET',
      `/shops/${id(shop)}/recipients?${new URLSearchParams({ having, q, offset: String(offset), limit: String(limit) }).toString()}`,
    ),
  someRecipients: (shop: string, ids: number[]) =>
    request<{ recipients: Recipient[] }>(
      'GET',
      `/shops/${id(shop)}/recipients/some?ids=${ids.join(',')}`,
    ),
  person: (shop: string, email: string) =>
    request<{ id: number; record: Record<string, unknown>; events: ShopEvent[] }>(
      'GET',
      `/shops/${id(shop)}/person?email=${id(email)}`,
    ),
  addShop: (shop: Shop) => request<Shop>('POST', '/shops', shop),
  sources: () => request<{ sources: SourceSummary[] }>('GET', '/sources'),
  source: (key: string) =>
    request<{ source: SourceSummary; imports: ImportSummary[] }>('GET', `/sources/${id(key)}`),
  addSource: (asked: CreateSource) => request<SourceSummary>('POST', '/sources', asked),
  changeSource: (key: string, asked: ChangeSource) =>
    request<SourceSummary>('PATCH', `/sources/${id(key)}`, asked),
  removeSource: (key: string) => request<undefined>('DELETE', `/sources/${id(key)}`),
  restoreSource: (key: string) => request<SourceSummary>('POST', `/sources/${id(key)}/restore`),
  sourceRows: (key: string, { q, filter, sort, descending }: RowsAsked, offset: number) =>
    request<RowPage>(
      'GET',
      `/sources/${id(key)}/rows?${new URLSearchParams({
        q,
        filter,
        ...(sort !== null && { sort }),
        descending: String(descending),
        offset: String(offset),
        limit: String(ROWS_A_PAGE),
      }).toString()}`,
    ),
  profile: (key: string) => request<SourceProfile>('GET', `/sources/${id(key)}/profile`),
  sendFile: (key: string, file: File, onShare: (share: number) => void) =>
    upload<ImportLook>(`/sources/${id(key)}/file?name=${id(file.name)}`, file, onShare),
  fetchSource: (key: string) =>
    request<{ look: ImportLook | null; source: SourceSummary }>(
      'POST',
      `/sources/${id(key)}/fetch`,
    ),
  typeRows: (key: string, records: Record<string, unknown>[]) =>
    request<ImportSummary>('POST', `/sources/${id(key)}/typed`, { records }),
  dropRow: (key: string, row: string) =>
    request<undefined>('DELETE', `/sources/${id(key)}/rows/${id(row)}`),
  look: (key: string) => request<ImportLook>('GET', `/imports/${id(key)}/look`),
  lookAgain: (key: string, settings: unknown) =>
    request<ImportLook>('POST', `/imports/${id(key)}/look`, { settings }),
  check: (key: string, asked: CheckImport) =>
    request<ImportSummary>('POST', `/imports/${id(key)}/check`, asked),
  stopImport: (key: string) => request<ImportSummary>('POST', `/imports/${id(key)}/stop`),
  discard: (key: string) => request<undefined>('DELETE', `/imports/${id(key)}`),
  importSummary: (key: string) => request<ImportSummary>('GET', `/imports/${id(key)}`),
  importRows: (key: string, outcome: ImportOutcome, offset: number) =>
    request<{ rows: ImportRow[] }>(
      'GET',
      `/imports/${id(key)}/rows?outcome=${outcome}&offset=${offset}&limit=${ROWS_A_PAGE}`,
    ),
  apply: (key: string) => request<ImportSummary>('POST', `/imports/${id(key)}/apply`),
  undoImport: (key: string) => request<ImportSummary>('POST', `/imports/${id(key)}/undo`),
  people: (shop: string, ids: number[]) =>
    request<{ people: { id: number; data: PersonData }[]; products: unknown[] }>(
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
