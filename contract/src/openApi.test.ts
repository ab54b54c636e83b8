import { z } from 'zod';
import { addressOf, ENDPOINTS, openApiDocument, type Endpoint } from '.';

const all: Record<string, Endpoint> = ENDPOINTS as never;

describe('the OpenAPI document', () => {
  const { paths, openapi } = openApiDocument(all, '1.2.3') as {
    openapi: string;
    paths: Record<
      string,
      Record<
        string,
        {
          operationId: string;
          parameters: { name: string; in: string }[];
          requestBody?: object;
          responses: Record<string, object>;
        }
      >
    >;
  };
  const operations = Object.values(paths).flatMap((path) => Object.values(path));

  it('has every endpoint once, with its parameters', () => {
    expect(openapi).toBe('3.1.0');
    expect(operations.map((one) => one.operationId).sort()).toEqual(Object.keys(all).sort());
    expect(paths['/api/sources/{id}/rows']?.['get']?.parameters.map(({ name }) => name)).toEqual([
      'id',
      'offset',
      'limit',
      'q',
      'filter',
      'sort',
      'descending',
    ]);
  });

  it('says what is sent and what is answered', () => {
    expect(paths['/api/templates/{id}']?.['put']?.requestBody).toMatchObject({
      content: { 'application/json': { schema: { required: ['version', 'template'] } } },
    });
    expect(paths['/api/sources/{id}/file']?.['post']?.requestBody).toMatchObject({
      content: { 'application/octet-stream': {} },
    });
    expect(Object.keys(paths['/api/templates/{id}']?.['delete']?.responses ?? {})).toEqual([
      '204',
      '4XX',
    ]);
    expect(JSON.parse(JSON.stringify(paths))).toEqual(paths);
  });
});

it('no two endpoints answer to one method and path', () => {
  const keys = Object.values(all).map(
    ({ method, path }) => `${method} ${path.replace(/:\w+/g, ':')}`,
  );
  expect(new Set(keys).size).toBe(keys.length);
});

it('an address holds its parameters and query, whatever is in them', () => {
  expect(addressOf({ path: '/a/:x/b' }, { x: 'é/?' }, { q: 'a&b', n: 0, none: undefined })).toBe(
    '/a/%C3%A9%2F%3F/b?q=a%26b&n=0',
  );
});

it('what is wrong with a request is said in sentences', () => {
  const messages = (schema: z.ZodType, value: unknown) =>
    schema.safeParse(value).error?.issues.map(({ message }) => message);
  expect(
    messages(ENDPOINTS.createShop.body as z.ZodType, {
      id: 'A b',
      name: ' ',
      url: 'x',
      address: '',
      logo: '',
      currency: 'eur',
      timezone: '',
      locale: '',
    }),
  ).toEqual([
    'An id is lower-case letters, digits and dashes.',
    'A shop needs a name.',
    'A web address begins with https:// or http://.',
    'There is no such currency. It is three capital letters, such as EUR.',
    'There is no such time zone. It is a name such as Europe/Berlin.',
    'There is no such language. It is a tag such as de-DE or en-GB.',
  ]);
});
