import { z } from 'zod';

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** The names that stand in a path: `/shops/:shop/people` has `shop`. */
export type ParamsOf<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Record<Name | keyof ParamsOf<`/${Rest}`>, string>
  : P extends `${string}:${infer Name}`
    ? Record<Name, string>
    : Record<never, string>;

/** One thing that can be asked of the server: router, client and the OpenAPI document are made of it. */
export interface Endpoint<
  P extends string = string,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  A extends z.ZodType = z.ZodType,
> {
  method: Method;
  /** Below `/api`. */
  path: P;
  summary: string;
  query?: Q;
  /** JSON; left out where there is none, or where the body is a file. */
  body?: B;
  /** JSON; null answers with nothing. */
  answer: A | null;
  /** The status of an answer; 200, or 204 where there is nothing to say. */
  status?: number;
  /** The body is a file, sent as it is. */
  takesFile?: boolean;
}

/** What is changed, as it was read: where it is something else by now, the answer is 409. */
export const OfVersion = z.object({
  version: z
    .string('Say what is changed: ?version=…, as it was read.')
    .min(1, 'Say what is changed: ?version=…, as it was read.')
    .max(64),
});

/** Keeps the types of an endpoint. */
export function endpoint<
  const P extends string,
  Q extends z.ZodType = z.ZodUndefined,
  B extends z.ZodType = z.ZodUndefined,
  A extends z.ZodType = z.ZodUndefined,
>(given: Endpoint<P, Q, B, A>): Endpoint<P, Q, B, A> {
  return given;
}

export type QueryOf<E> = E extends Endpoint<string, infer Q> ? z.infer<Q> : never;
export type BodyOf<E> = E extends Endpoint<string, z.ZodType, infer B> ? z.infer<B> : never;
export type AnswerOf<E> =
  E extends Endpoint<string, z.ZodType, z.ZodType, infer A> ? z.infer<A> : never;
type PathOf<E> = E extends Endpoint<infer P> ? P : never;

/** What an endpoint is asked with, as it is before defaults are filled in. */
export type AskedOf<E extends Endpoint> = {
  params: ParamsOf<PathOf<E>>;
  query: E extends Endpoint<string, infer Q> ? z.input<Q> : never;
  body: E extends Endpoint<string, z.ZodType, infer B> ? z.input<B> : never;
};

/** The address of an endpoint below `/api`, with its parameters and query in it. */
export function addressOf(
  { path }: Pick<Endpoint, 'path'>,
  params: Record<string, string> = {},
  query: object = {},
): string {
  const filled = path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent(params[name] ?? ''),
  );
  const given = Object.entries(query).flatMap(([name, value]) =>
    value === undefined || value === null
      ? []
      : [[name, String(value as string | number | boolean)]],
  );
  return given.length === 0 ? filled : `${filled}?${new URLSearchParams(given).toString()}`;
}

/** A value whose shape core knows, and this contract only carries. */
export function carried<T>(description: string): z.ZodType<T> {
  return z.custom<T>(() => true).describe(description);
}
