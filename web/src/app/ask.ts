import { addressOf, ApiError, type AnswerOf, type Endpoint } from '@carafe/contract';
import { wordsOf } from '../words';

const t = wordsOf('app');

/** A request that was refused, with the server's own sentence; plain data, so that a store can keep it. */
export interface Refused {
  /** 0 where the server could not be reached. */
  status: number;
  message: string;
  body: unknown;
}

/** The same as an error. */
export class RequestFailed extends Error {
  override name = 'RequestFailed';
  constructor(readonly refused: Refused) {
    super(refused.message);
  }
}

/** What an endpoint is asked with. */
export interface Asked {
  params?: Record<string, string>;
  query?: object;
  body?: unknown;
}

const UNREACHABLE = t('carafesServerCannotBeReachedWhat');

/** The server's own sentence. */
function toldBy(answer: unknown): string {
  const told = ApiError.safeParse(answer);
  return told.success ? told.data.error.message : t('theServersAnswerCouldNotBe');
}

/** Asks the server; rejects with RequestFailed. */
export async function ask<E extends Endpoint>(
  endpoint: E,
  { params, query, body }: Asked = {},
  signal?: AbortSignal,
): Promise<AnswerOf<E>> {
  let response: Response;
  try {
    response = await fetch(`/api${addressOf(endpoint, params, query)}`, {
      method: endpoint.method,
      ...(body !== undefined && {
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json' },
      }),
      ...(signal && { signal }),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new RequestFailed({ status: 0, message: UNREACHABLE, body: null });
  }
  if (response.status === 204) return undefined as AnswerOf<E>;
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return answer as AnswerOf<E>;
  throw new RequestFailed({ status: response.status, message: toldBy(answer), body: answer });
}

/** Sends a file as it is, telling which share of it has gone. */
export function send<E extends Endpoint>(
  endpoint: E,
  asked: Omit<Asked, 'body'>,
  file: Blob,
  onShare: (share: number) => void,
): Promise<AnswerOf<E>> {
  return new Promise((done, failed) => {
    const sending = new XMLHttpRequest();
    sending.open(endpoint.method, `/api${addressOf(endpoint, asked.params, asked.query)}`);
    sending.setRequestHeader('content-type', 'application/octet-stream');
    sending.upload.onprogress = ({ loaded, total }) => onShare(total > 0 ? loaded / total : 0);
    sending.onload = () => {
      let body: unknown = null;
      try {
        body = JSON.parse(sending.responseText);
      } catch {
        // told below: an answer that cannot be read
      }
      const { status } = sending;
      if (status < 300 && body !== null) done(body as AnswerOf<E>);
      else failed(new RequestFailed({ status, message: toldBy(body), body }));
    };
    sending.onerror = () =>
      failed(
        new RequestFailed({
          status: 0,
          message: t('theFileDidNotArriveNothing'),
          body: null,
        }),
      );
    sending.send(file);
  });
}

/** What went wrong, in a sentence: of an error, or of what a store keeps of one. */
export function messageOf(error: unknown): string {
  if (error instanceof Error) return error.message;
  const { message } = (error ?? {}) as { message?: unknown };
  return typeof message === 'string' ? message : t('somethingFailedNothingWasChanged');
}

/** What is wrong with what was filled in, in sentences; a form shows the places itself. */
export function faultsOf(error: unknown): string {
  const kept = error instanceof RequestFailed ? error.refused : (error as Partial<Refused> | null);
  const told = ApiError.safeParse(kept?.body);
  const problems = told.success ? (told.data.error.problems ?? []) : [];
  return problems.length > 0
    ? [...new Set(problems.map(({ message }) => message))].join(' ')
    : messageOf(error);
}
