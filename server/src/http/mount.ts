import type { AnswerOf, BodyOf, Endpoint, ParamsOf, QueryOf } from '@carafe/contract';
import type { Request, Response, Router } from 'express';

/** JSON that is put together already. */
export class JsonText {
  constructor(
    readonly text: string,
    readonly type = 'json',
  ) {}
}

/** What a handler is given: everything that the endpoint names, parsed. */
export interface Asked<E extends Endpoint> {
  params: E extends Endpoint<infer P> ? ParamsOf<P> : never;
  query: QueryOf<E>;
  body: BodyOf<E>;
  request: Request;
  response: Response;
}
export type Handler<E extends Endpoint> = (
  asked: Asked<E>,
) => AnswerOf<E> | JsonText | Promise<AnswerOf<E> | JsonText>;

/** Tests hold every answer against its contract; what was measured once need not be again. */
const HOLDS_ANSWERS = process.env['NODE_ENV'] === 'test';

function hold(endpoint: Endpoint, answer: unknown): void {
  const read = endpoint.answer?.safeParse(answer);
  if (read?.success === false)
    throw new Error(
      `${endpoint.method} ${endpoint.path} does not keep its contract: ${read.error.message}`,
    );
}

/** Lets a router answer an endpoint. A handler may also answer by itself. */
export function mount<E extends Endpoint>(router: Router, endpoint: E, handler: Handler<E>): void {
  const method = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
  router[method](endpoint.path, async (request: Request, response: Response) => {
    const answer = await handler({
      params: request.params as never,
      query: endpoint.query?.parse(request.query) as never,
      body: endpoint.body?.parse(request.body) as never,
      request,
      response,
    });
    if (response.headersSent) return;
    if (answer instanceof JsonText) {
      response
        .status(endpoint.status ?? 200)
        .type(answer.type)
        .send(answer.text);
      return;
    }
    if (endpoint.answer === null) {
      response.status(204).end();
      return;
    }
    if (HOLDS_ANSWERS) hold(endpoint, answer);
    response.status(endpoint.status ?? 200).json(answer);
  });
}
