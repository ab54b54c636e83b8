import type { ApiError } from '@carafe/contract';
import { plainIssues } from '@carafe/core/errors';
import type { ErrorRequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { ZodError } from 'zod';

/** Something that a person can put right, with the status that says so. */
export class Refusal extends Error {
  override name = 'Refusal';
  constructor(
    readonly status: number,
    message: string,
    readonly problems?: { path: string; message: string }[],
  ) {
    super(message);
  }
}

interface HttpError {
  status?: number;
  type?: string;
  limit?: number;
}

function explained(error: unknown): Refusal | null {
  if (error instanceof Refusal) return error;
  if (error instanceof ZodError) {
    const problems = plainIssues(error.issues).slice(0, 20);
    const [first] = problems;
    const where = first?.path ? `${first.path}: ` : '';
    return new Refusal(
      400,
      `This request cannot be read. ${where}${first?.message ?? ''} Nothing was changed.`,
      problems,
    );
  }
  const { type, status, limit } = error as HttpError;
  if (type === 'entity.too.large') {
    const most =
      (limit ?? 0) < 1_000_000
        ? `${Math.round((limit ?? 0) / 1000)} KB`
        : `${Math.round((limit ?? 0) / 1_000_000)} MB`;
    return new Refusal(
      413,
      `This is too large: at most ${most} can be sent at once. Nothing was changed.`,
    );
  }
  if (type === 'entity.parse.failed')
    return new Refusal(400, 'This is not JSON. Nothing was changed.');
  if (status === 404) return new Refusal(404, 'There is nothing at this address.');
  if (status !== undefined && status >= 400 && status < 500)
    return new Refusal(status, 'This request cannot be read. Nothing was changed.');
  return null;
}

const asJson = (response: Response, status: number, error: ApiError['error']): void =>
  void response.status(status).json({ error } satisfies ApiError);

/**
 * Answers what went wrong in a sentence, as JSON or as `answer` says it; what nobody foresaw is logged and told
 * plainly.
 */
export function errorHandler(log: Logger, answer = asJson): ErrorRequestHandler {
  return (error: unknown, _request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const known = explained(error);
    if (!known) log.error(error);
    answer(response, known?.status ?? 500, {
      message:
        known?.message ?? 'Something failed on the server; nothing was changed. The log says more.',
      ...(known?.problems && { problems: known.problems }),
    });
  };
}
