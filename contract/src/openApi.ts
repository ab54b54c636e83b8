import { z } from 'zod';
import type { Endpoint } from './endpoint';
import { ApiError } from './errors';

const schemaOf = (schema: z.ZodType, io: 'input' | 'output'): object => {
  const { $schema: _draft, ...rest } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
  return rest;
};
const json = (schema: object) => ({ 'application/json': { schema } });
const FAILURE = {
  description: 'What went wrong, in a sentence',
  content: json(schemaOf(ApiError, 'output')),
};

function parameters({ path, query }: Endpoint): object[] {
  const inPath = [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  if (!query) return inPath;
  const { properties = {}, required = [] } = schemaOf(query, 'input') as {
    properties?: Record<string, object>;
    required?: string[];
  };
  const inQuery = Object.entries(properties).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }));
  return [...inPath, ...inQuery];
}

function requestBody({ body, takesFile }: Endpoint): object {
  if (takesFile)
    return { requestBody: { required: true, content: { 'application/octet-stream': {} } } };
  return body ? { requestBody: { required: true, content: json(schemaOf(body, 'input')) } } : {};
}

/** The OpenAPI 3.1 document of some endpoints, each under its name. */
export function openApiDocument(endpoints: Record<string, Endpoint>, version: string): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const [operationId, one] of Object.entries(endpoints)) {
    const path = `/api${one.path.replace(/:(\w+)/g, '{$1}')}`;
    const status = String(one.status ?? (one.answer ? 200 : 204));
    (paths[path] ??= {})[one.method.toLowerCase()] = {
      operationId,
      summary: one.summary,
      parameters: parameters(one),
      ...requestBody(one),
      responses: {
        [status]: {
          description: one.summary,
          ...(one.answer && { content: json(schemaOf(one.answer, 'output')) }),
        },
        '4XX': FAILURE,
      },
    };
  }
  return { openapi: '3.1.0', info: { title: 'Carafe', version }, paths };
}
